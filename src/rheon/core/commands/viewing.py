"""Something that was made, as an MP4 file that any browser plays. Pure."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..media import AudioStream, VideoStream
from .inputs import safe_file_input
from .start import QUIET
from .tone_mapping import for_screen

PLAYED_VIDEO = frozenset({"h264", "vp9", "av1"})
PLAYED_AUDIO = frozenset({"aac", "mp3", "opus"})
CLEAR = 12
"""Constant quality at which what the first coder lost is all that is seen."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Viewed:
    """A file and its streams: at most one of sound."""

    path: str
    video: VideoStream | None
    audio: Sequence[AudioStream]


def viewing_command(viewed: Viewed, target: str) -> list[str]:
    """Streams that browsers play stay as they are; others are made anew, too good for anybody to see or hear it."""
    argv = [*QUIET, "-nostdin", "-y", *safe_file_input(viewed.path)]
    video = viewed.video
    if video is not None:
        argv += ["-map", "0:V:0"]
        # browsers show lines of two moments as they lie
        changed = [*(["bwdif=mode=send_frame"] if video.is_combed else []), *for_screen(video)]
        if video.codec in PLAYED_VIDEO and video.bit_depth == 8 and not changed:
            argv += ["-c:v", "copy"]
        else:
            shown = ",".join([*changed, "format=yuv420p"])
            argv += ["-vf", shown, "-c:v", "libx264", "-preset", "ultrafast", "-crf", str(CLEAR)]
    if viewed.audio:
        played = viewed.audio[0].codec in PLAYED_AUDIO
        argv += ["-map", "0:a:0", "-c:a", *(("copy",) if played else ("aac", "-ac", "2", "-b:a", "256k"))]
    argv += ["-map_metadata", "-1", "-map_chapters", "-1", "-movflags", "+faststart"]
    return [*argv, "-f", "mp4", f"file:{target}"]
