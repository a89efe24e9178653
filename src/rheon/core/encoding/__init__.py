"""From a plan's settings to a file: carrying out what ``commands`` builds."""

from .clips import make_clip
from .excerpt import ExcerptRequest, excerpt_stretch, make_excerpt, make_source_excerpt
from .parts import part_path, part_token, parts_in, remove_part, side_parts
from .preview import PreviewRequest, preview_jpeg
from .progress import Progress, ProgressUnit
from .run import Hooks, Made, check_target, make_file

__all__ = [
    "ExcerptRequest",
    "Hooks",
    "Made",
    "PreviewRequest",
    "Progress",
    "ProgressUnit",
    "check_target",
    "excerpt_stretch",
    "make_clip",
    "make_excerpt",
    "make_file",
    "make_source_excerpt",
    "part_path",
    "part_token",
    "parts_in",
    "preview_jpeg",
    "remove_part",
    "side_parts",
]
