"""Names, and where files go."""

from .artwork import ARTWORK_SUFFIX
from .beside import beside
from .convert import Delivered, Order, convert, take_up
from .disc_copy import DiscCopied, DiscOrder, copy_disc, take_up_copy
from .place import numbered, put_in_place

__all__ = [
    "ARTWORK_SUFFIX",
    "Delivered",
    "DiscCopied",
    "DiscOrder",
    "Order",
    "beside",
    "convert",
    "copy_disc",
    "numbered",
    "put_in_place",
    "take_up",
    "take_up_copy",
]
