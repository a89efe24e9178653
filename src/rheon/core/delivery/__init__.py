"""Names, and where files go."""

from .artwork import ARTWORK_SUFFIX
from .beside import beside, stems_beside
from .convert import Delivered, Order, convert, take_up
from .copy_progress import PAUSE_POLL_S, CopyProgress
from .disc_copy import DiscCopied, DiscOrder, copy_disc, take_up_copy
from .place import folded, numbered, put_in_place

__all__ = [
    "ARTWORK_SUFFIX",
    "PAUSE_POLL_S",
    "CopyProgress",
    "Delivered",
    "DiscCopied",
    "DiscOrder",
    "Order",
    "beside",
    "convert",
    "copy_disc",
    "folded",
    "numbered",
    "put_in_place",
    "stems_beside",
    "take_up",
    "take_up_copy",
]
