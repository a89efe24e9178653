"""The registry of encoders in hardware: a file for each family, and its name here in the order of preference."""

from ..codec import VideoEncoder
from .family import Family
from .nvenc import NVENC
from .qsv import QSV
from .v4l2 import V4L2
from .vaapi import VAAPI

HARDWARE = {family.name: family for family in (NVENC, QSV, VAAPI, V4L2)}


def hardware_encoders(codec: str) -> tuple[VideoEncoder, ...]:
    """Those that make a codec."""
    return tuple(family.encoder(codec) for family in HARDWARE.values() if codec in family.blocks)


__all__ = ["HARDWARE", "Family", "hardware_encoders"]
