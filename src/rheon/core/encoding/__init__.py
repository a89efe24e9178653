"""From a plan's settings to a file: carrying out what ``commands`` builds."""

from .clips import make_clip
from .excerpt import ExcerptRequest, excerpt_stretch, make_excerpt, make_source_excerpt
from .fidelity import (
    Fidelity,
    Viewing,
    is_measurable,
    make_reference,
    measure_fidelity,
    reference_settings,
)
from .parts import part_path, part_token, parts_in, remove_part, side_parts
from .preview import PreviewRequest, preview_jpeg
from .progress import Progress, ProgressUnit
from .run import Hooks, Made, check_target, make_file

__all__ = [
    "ExcerptRequest",
    "Fidelity",
    "Hooks",
    "Made",
    "PreviewRequest",
    "Progress",
    "ProgressUnit",
    "Viewing",
    "check_target",
    "excerpt_stretch",
    "is_measurable",
    "make_clip",
    "make_excerpt",
    "make_file",
    "make_reference",
    "make_source_excerpt",
    "measure_fidelity",
    "part_path",
    "part_token",
    "parts_in",
    "preview_jpeg",
    "reference_settings",
    "remove_part",
    "side_parts",
]
