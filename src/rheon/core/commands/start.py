"""How the engine's programs are begun."""

from __future__ import annotations

QUIET = ("ffmpeg", "-hide_banner", "-loglevel", "error")
"""Only what goes wrong is said."""
TALKING = ("ffmpeg", "-hide_banner", "-loglevel", "info")
"""What filters report is said too."""
FOLLOWED = (*QUIET, "-nostdin", "-nostats", "-progress", "pipe:1")
"""How far it is goes to standard output, line by line."""
