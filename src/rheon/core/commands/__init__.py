"""Every argument list that the engine is called with, made here and nowhere else. Pure."""

from .inputs import audio_pad, pipe_input, safe_file_input, subtitle_pad, video_pad

__all__ = ["audio_pad", "pipe_input", "safe_file_input", "subtitle_pad", "video_pad"]
