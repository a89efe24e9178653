"""How much memory is left, by the kernel's own count."""

from __future__ import annotations

from pathlib import Path


def available_bytes() -> int | None:
    """Memory that programs can have without swapping (proc_meminfo(5)); ``None`` where nobody tells."""
    try:
        lines = Path("/proc/meminfo").read_text().splitlines()
        return next((int(line.split()[1]) * 1024 for line in lines if line.startswith("MemAvailable:")), None)
    except (OSError, ValueError, IndexError):
        return None
