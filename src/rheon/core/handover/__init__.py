"""Getting finished files onto devices: volumes that are there, what fits on them, and copies that are sure."""

from .copying import Copied, CopyOrder, clear_parts, copy_file, folder_on, hand_over, name_on
from .fitting import Fit, Room, kept_free, what_fits
from .holdings import Double, Holding, alike_by_sample, doubles, hold, same_content
from .listing import Listing
from .volumes import MOUNTED, Drawer, MountedVolumes, Volume, VolumeKind, Volumes, folder_as_volume, open_volumes

__all__ = [
    "MOUNTED",
    "Copied",
    "CopyOrder",
    "Double",
    "Drawer",
    "Fit",
    "Holding",
    "Listing",
    "MountedVolumes",
    "Room",
    "Volume",
    "VolumeKind",
    "Volumes",
    "alike_by_sample",
    "clear_parts",
    "copy_file",
    "doubles",
    "folder_as_volume",
    "folder_on",
    "hand_over",
    "hold",
    "kept_free",
    "name_on",
    "open_volumes",
    "same_content",
    "what_fits",
]
