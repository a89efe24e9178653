"""Names, and where files go."""

from .convert import Delivered, Order, convert
from .place import numbered, put_in_place

__all__ = ["Delivered", "Order", "convert", "numbered", "put_in_place"]
