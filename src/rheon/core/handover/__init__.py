"""Getting finished files onto devices: volumes that are there, what fits on them, and copies that are sure."""

from .copying import Copied, CopyOrder, copy_file, copy_of, name_on
from .fitting import KEPT_FREE_BYTES, Fit, Room, what_fits
from .volumes import MOUNTED, Drawer, MountedVolumes, Volume, VolumeKind, Volumes, open_volumes

__all__ = [
    "KEPT_FREE_BYTES",
    "MOUNTED",
    "Copied",
    "CopyOrder",
    "Drawer",
    "Fit",
    "MountedVolumes",
    "Room",
    "Volume",
    "VolumeKind",
    "Volumes",
    "copy_file",
    "copy_of",
    "name_on",
    "open_volumes",
    "what_fits",
]
