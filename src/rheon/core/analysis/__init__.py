"""Decodes picture and sound in samples."""

from .complexity import sampled_bits_per_pixel
from .frames import frame_jpeg, frame_times

__all__ = ["frame_jpeg", "frame_times", "sampled_bits_per_pixel"]
