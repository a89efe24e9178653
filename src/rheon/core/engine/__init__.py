"""The one door to ffmpeg and ffprobe: find, run, follow, stop."""

from .probe import ProbedFile, probe
from .process import Command, Feed, Finished, available, run
from .tools import MAX_PIXELS, PIPE_INPUT, parse_version, require, safe_file_input

__all__ = [
    "MAX_PIXELS",
    "PIPE_INPUT",
    "Command",
    "Feed",
    "Finished",
    "ProbedFile",
    "available",
    "parse_version",
    "probe",
    "require",
    "run",
    "safe_file_input",
]
