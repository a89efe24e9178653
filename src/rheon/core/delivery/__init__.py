"""Names, and where files go."""

from .convert import Delivered, Order, convert
from .disc_copy import DiscCopied, DiscOrder, copy_disc, remove_part
from .place import numbered, put_in_place

__all__ = [
    "Delivered",
    "DiscCopied",
    "DiscOrder",
    "Order",
    "convert",
    "copy_disc",
    "numbered",
    "put_in_place",
    "remove_part",
]
