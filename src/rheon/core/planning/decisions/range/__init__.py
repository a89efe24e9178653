"""Decisions about which stretches of a title go into the file."""

from .choice import WHOLE, RangeChoice
from .cut import CUT
from .keep import KEEP

RANGE = (KEEP, CUT)

__all__ = ["CUT", "KEEP", "RANGE", "WHOLE", "RangeChoice"]
