"""Names, and where files go."""

from .convert import Delivered, Order, convert, take_up
from .disc_copy import DiscCopied, DiscOrder, copy_disc, parts_in, remove_left_over, remove_part, take_up_copy
from .place import numbered, put_in_place

__all__ = [
    "Delivered",
    "DiscCopied",
    "DiscOrder",
    "Order",
    "convert",
    "copy_disc",
    "numbered",
    "parts_in",
    "put_in_place",
    "remove_left_over",
    "remove_part",
    "take_up",
    "take_up_copy",
]
