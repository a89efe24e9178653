"""Reads structure: DVD-Video and Blu-ray in folders and images, and media files, into a ``Source``."""

from .files.library import IMAGE_SUFFIXES, find_sources
from .files.reader import FILE_SUFFIXES
from .images.disc_files import is_disc_folder
from .progress import ScanProgress
from .read import READERS, Reader, read_source
from .roles.parts import ChapterRange, cut
from .roles.roles import part_number, with_roles

__all__ = [
    "FILE_SUFFIXES",
    "IMAGE_SUFFIXES",
    "READERS",
    "ChapterRange",
    "Reader",
    "ScanProgress",
    "cut",
    "find_sources",
    "is_disc_folder",
    "part_number",
    "read_source",
    "with_roles",
]
