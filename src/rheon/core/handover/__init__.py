"""Getting finished files onto devices: volumes that are there, what fits on them, and copies that are sure."""

from .copying import Copied, CopyOrder, clear_parts, copy_file, folder_on, hand_over, name_on
from .fitting import Fit, Room, kept_free, what_fits
from .listing import Listing
from .volumes import MOUNTED, Drawer, MountedVolumes, Volume, VolumeKind, Volumes, folder_as_volume, open_volumes

__all__ = [
    "MOUNTED",
    "Copied",
    "CopyOrder",
    "Drawer",
    "Fit",
    "Listing",
    "MountedVolumes",
    "Room",
    "Volume",
    "VolumeKind",
    "Volumes",
    "clear_parts",
    "copy_file",
    "folder_as_volume",
    "folder_on",
    "hand_over",
    "kept_free",
    "name_on",
    "open_volumes",
    "what_fits",
]
