"""Decisions about which stretches of a title go into the file."""

from .choice import WHOLE, RangeChoice
from .cut import CUT
from .join import JOIN
from .keep import KEEP

RANGE = (JOIN, KEEP, CUT)

__all__ = ["CUT", "JOIN", "KEEP", "RANGE", "WHOLE", "RangeChoice"]
