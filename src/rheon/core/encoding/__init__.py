"""From a plan's settings to a file: the argument list, and carrying it out."""

from .clips import make_clip
from .command import build_command
from .job import Job
from .preview import PreviewRequest, preview_jpeg
from .progress import Progress
from .run import PART_PREFIX, PART_SUFFIX, Hooks, Made, check_target, make_file, part_path, remove, side_parts

__all__ = [
    "PART_PREFIX",
    "PART_SUFFIX",
    "Hooks",
    "Job",
    "Made",
    "PreviewRequest",
    "Progress",
    "build_command",
    "check_target",
    "make_clip",
    "make_file",
    "part_path",
    "preview_jpeg",
    "remove",
    "side_parts",
]
