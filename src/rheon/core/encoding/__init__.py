"""From a plan's settings to a file: carrying out what ``commands`` builds."""

from .along import Grown
from .clips import make_clip
from .cost import Cost, measure_cost
from .excerpt import ExcerptRequest, excerpt_stretch, make_excerpt, make_source_excerpt
from .fidelity import (
    Fidelity,
    Reference,
    Viewing,
    is_measurable,
    measure_fidelity,
    reference_in,
    reference_settings,
    together,
    turns_of,
)
from .forecast import Forecast, Left
from .hardware import HardwareTrial, hardware_mark, try_hardware, working
from .hooks import Hooks
from .measured_rate import Stretch, measured_rate
from .parts import part_path, part_token, parts_in, remove_part, side_parts
from .preview import PreviewRequest, preview_jpeg
from .progress import Progress, ProgressUnit
from .run import Made, check_target, make_file
from .trade_off import Point, Way, better, ways_left

__all__ = [
    "Cost",
    "ExcerptRequest",
    "Fidelity",
    "Forecast",
    "Grown",
    "HardwareTrial",
    "Hooks",
    "Left",
    "Made",
    "Point",
    "PreviewRequest",
    "Progress",
    "ProgressUnit",
    "Reference",
    "Stretch",
    "Viewing",
    "Way",
    "better",
    "check_target",
    "excerpt_stretch",
    "hardware_mark",
    "is_measurable",
    "make_clip",
    "make_excerpt",
    "make_file",
    "make_source_excerpt",
    "measure_cost",
    "measure_fidelity",
    "measured_rate",
    "part_path",
    "part_token",
    "parts_in",
    "preview_jpeg",
    "reference_in",
    "reference_settings",
    "remove_part",
    "side_parts",
    "together",
    "try_hardware",
    "turns_of",
    "ways_left",
    "working",
]
