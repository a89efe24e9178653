"""Reads structure: DVD-Video in folders and images, and media files, into a ``Source``."""

from .progress import ScanProgress
from .read import READERS, Reader, read_source
from .roles import with_roles

__all__ = ["READERS", "Reader", "ScanProgress", "read_source", "with_roles"]
