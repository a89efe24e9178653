"""Hash-checked locks of the pinned packages: ``make locks`` writes them, ``--check`` tells when they are old.

``requirements.txt`` stays a plain list, since the package's own metadata are made from it.
"""

from __future__ import annotations

import re
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
LISTS = ("requirements", "requirements-dev")
QUIETLY = ("--quiet", "--no-header", "--no-annotate", "--allow-unsafe", "--strip-extras")
NO_ADDRESS = ("--no-emit-index-url", "--no-emit-trusted-host", "--no-emit-find-links")


def pins(text: str) -> set[str]:
    return {line.lower().replace("_", "-") for line in re.findall(r"^[\w.\[\]-]+==[\w.+!-]+", text, re.MULTILINE)}


def write(name: str) -> None:
    target = ROOT / f"{name}.lock"
    argv = [sys.executable, "-m", "piptools", "compile", "--generate-hashes", *QUIETLY, *NO_ADDRESS]
    subprocess.run([*argv, "--output-file", str(target), str(ROOT / f"{name}.txt")], check=True)


def old() -> list[str]:
    """The locks whose pins are not those of their list, or where one has no hash."""
    found = []
    for name in LISTS:
        lock = (ROOT / f"{name}.lock").read_text(encoding="utf-8")
        wanted = pins((ROOT / f"{name}.txt").read_text(encoding="utf-8"))
        if pins(lock) != wanted or lock.count("==") > len(re.findall(r"== ?\S+ \\\n +--hash=", lock)):
            found.append(f"{name}.lock is not what {name}.txt says: make locks")
    return found


if __name__ == "__main__":
    if "--check" not in sys.argv:
        for each in LISTS:
            write(each)
    told = old()
    print("\n".join(told) or "locks are current")
    sys.exit(bool(told))
