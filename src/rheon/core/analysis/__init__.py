"""Decodes picture and sound in samples."""

from .complexity import sample_pictures
from .frames import frame_jpeg, frame_times

__all__ = ["frame_jpeg", "frame_times", "sample_pictures"]
