"""The one door to ffmpeg and ffprobe: find, run, follow, stop."""

from .arguments import PIPE_INPUT, safe_file_input
from .identity import is_alive, process_identity
from .probe import ProbedFile, probe
from .process import Command, Feed, Finished, available, run
from .tools import MAX_PIXELS, parse_version, require

__all__ = [
    "MAX_PIXELS",
    "PIPE_INPUT",
    "Command",
    "Feed",
    "Finished",
    "ProbedFile",
    "available",
    "is_alive",
    "parse_version",
    "probe",
    "process_identity",
    "require",
    "run",
    "safe_file_input",
]
