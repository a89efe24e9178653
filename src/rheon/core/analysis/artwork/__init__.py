"""What a title's files are known by: its best frames, pictures that came with it or were brought, and their shapes."""

from .attached import jpeg_in_file
from .covers import cover_jpeg, read_picture, shaped_jpeg
from .framed import frame_picture
from .stills import Still, propose_stills

__all__ = ["Still", "cover_jpeg", "frame_picture", "jpeg_in_file", "propose_stills", "read_picture", "shaped_jpeg"]
