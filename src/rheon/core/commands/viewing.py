"""Something that was made, as an MP4 file that any browser plays. Pure."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..formats import is_text
from ..media import AudioStream, SubtitleStream, VideoStream
from .inputs import safe_file_input
from .start import QUIET
from .tone_mapping import for_screen

PLAYED_VIDEO = frozenset({"h264", "vp9", "av1"})
PLAYED_AUDIO = frozenset({"aac", "mp3", "opus"})
CLEAR = 12
"""Constant quality at which what the first coder lost is all that is seen."""


SOON = ("-analyzeduration", "300000", "-probesize", "300000")
"""What is looked at of a file before it is read, where that file is still being written."""
IN_FRAGMENTS = ("-movflags", "+frag_keyframe+delay_moov+default_base_moof", "-frag_duration", "250000",
                "-flush_packets", "1")  # fmt: skip
"""An MP4 file that plays as far as it is written: a fragment four times a second (ISO/IEC 14496-12, 8.8)."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Viewed:
    """A file and its streams: at most one of sound. ``subtitle`` is its only one, and switched on."""

    path: str
    video: VideoStream | None
    audio: Sequence[AudioStream]
    subtitle: SubtitleStream | None = None


def viewing_command(viewed: Viewed, target: str) -> list[str]:
    """Streams that browsers play stay as they are; others are made anew, too good for anybody to see or hear it.

    Subtitles that are on lie over the picture where a player lays them. Runs in the folder of the file.
    """
    argv = [*QUIET, "-nostdin", "-y", *safe_file_input(viewed.path), *_streams(viewed)]
    return [*argv, "-movflags", "+faststart", "-f", "mp4", f"file:{target}"]


def viewing_along(viewed: Viewed, target: str) -> list[str]:
    """The same of a Matroska file that comes on standard input while it is written, without subtitles; how far it is
    goes to standard output.
    """
    source = ("-protocol_whitelist", "pipe", "-format_whitelist", "matroska", "-f", "matroska", "-i", "pipe:0")
    argv = [*QUIET, "-nostats", "-progress", "pipe:1", "-stats_period", "0.1", "-y", "-copyts", *SOON, *source]
    return [*argv, *_streams(viewed), *IN_FRAGMENTS, "-f", "mp4", f"file:{target}"]


def in_one_piece(fragments: str, target: str) -> list[str]:
    """What was written in fragments, with its index in front."""
    # sound that begins before zero, as encoders make it, would else move all that it comes with
    argv = [*QUIET, "-nostdin", "-y", "-copyts", *safe_file_input(fragments), "-map", "0", "-c", "copy"]
    return [*argv, "-movflags", "+faststart", "-f", "mp4", f"file:{target}"]


def _streams(viewed: Viewed) -> list[str]:
    argv: list[str] = []
    video = viewed.video
    if video is not None:
        # browsers show lines of two moments as they lie
        changed = [*(["bwdif=mode=send_frame"] if video.is_combed else []), *for_screen(video)]
        if video.codec in PLAYED_VIDEO and video.bit_depth == 8 and not changed and viewed.subtitle is None:
            argv += ["-map", "0:V:0", "-c:v", "copy"]
        else:
            argv += ["-filter_complex", _shown(viewed, video, changed), "-map", "[out]"]
            argv += ["-c:v", "libx264", "-preset", "ultrafast", "-crf", str(CLEAR)]
    if viewed.audio:
        played = viewed.audio[0].codec in PLAYED_AUDIO
        argv += ["-map", "0:a:0", "-c:a", *(("copy",) if played else ("aac", "-ac", "2", "-b:a", "256k"))]
    return [*argv, "-map_metadata", "-1", "-map_chapters", "-1"]


def _shown(viewed: Viewed, video: VideoStream, changed: Sequence[str]) -> str:
    """The picture with what lies over it: pictures of lines fill the frame, whatever was cut away of it."""
    subtitle, last = viewed.subtitle, "format=yuv420p"
    if subtitle is None:
        return f"[0:V:0]{','.join([*changed, last])}[out]"
    if is_text(subtitle):
        drawn = f"subtitles=filename={viewed.path.rpartition('/')[2]}"
        return f"[0:V:0]{','.join([*changed, drawn, last])}[out]"
    seen = f"[0:V:0]{','.join([*changed, 'settb=AVTB'])}[seen]"
    return f"{seen};[0:s:0]scale={video.width}:{video.height}[lines];[seen][lines]overlay=eof_action=pass,{last}[out]"
