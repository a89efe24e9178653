"""Getting finished files onto devices: volumes that are there, what fits on them, and copies that are sure."""

from .copying import Copied, CopyOrder, copy_file, copy_of, hand_over, name_on, size_of
from .fitting import Fit, Room, kept_free, what_fits
from .volumes import MOUNTED, Drawer, MountedVolumes, Volume, VolumeKind, Volumes, folder_as_volume, open_volumes

__all__ = [
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
    "folder_as_volume",
    "hand_over",
    "kept_free",
    "name_on",
    "open_volumes",
    "size_of",
    "what_fits",
]
