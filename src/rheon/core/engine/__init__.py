"""The one door to ffmpeg and ffprobe: find, run, follow, stop."""

from .arguments import pipe_input, safe_file_input
from .identity import InHand, is_alive, process_identity
from .opening import check_inside, is_inside, is_there, open_inside, read_inside, real_path, set_fence
from .probe import ProbedFile, probe
from .process import Command, Feed, Finished, available, run
from .scratch import clear_left_over, is_in_use, is_left_over, own_mark, use_scratch
from .tools import MAX_PIXELS, parse_version, require

__all__ = [
    "MAX_PIXELS",
    "Command",
    "Feed",
    "Finished",
    "InHand",
    "ProbedFile",
    "available",
    "check_inside",
    "clear_left_over",
    "is_alive",
    "is_in_use",
    "is_inside",
    "is_left_over",
    "is_there",
    "open_inside",
    "own_mark",
    "parse_version",
    "pipe_input",
    "probe",
    "process_identity",
    "read_inside",
    "real_path",
    "require",
    "run",
    "safe_file_input",
    "set_fence",
    "use_scratch",
]
