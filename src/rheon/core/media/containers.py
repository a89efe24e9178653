"""Which codecs each container can hold, and what files in it are called."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class Container:
    """A container: its name for people, ffmpeg's muxer, and the codecs that may go in.

    Rheon only opens those without a muxer.
    """

    name: str
    label: str
    muxer: str | None
    video: frozenset[str]
    audio: frozenset[str]


CONTAINERS: dict[str, Container] = {
    container.name: container
    for container in (
        Container(
            name="mp4",
            label="MP4",
            muxer="mp4",
            video=frozenset({"h264", "hevc", "mpeg4", "av1"}),
            audio=frozenset({"aac", "mp3", "ac3", "eac3", "alac"}),
        ),
        Container(
            name="matroska",
            label="Matroska",
            muxer="matroska",
            video=frozenset({"h264", "hevc", "mpeg4", "mpeg2video", "mpeg1video", "vp8", "vp9", "av1", "mjpeg"}),
            audio=frozenset({"aac", "mp3", "mp2", "ac3", "eac3", "dts", "flac", "opus", "vorbis", "pcm_s16le"}),
        ),
        Container(
            name="avi",
            label="AVI",
            muxer="avi",
            video=frozenset({"mpeg4", "mjpeg"}),
            audio=frozenset({"mp3", "ac3", "mp2", "pcm_s16le"}),
        ),
        Container(
            name="mpeg_ts",
            label="MPEG-TS",
            muxer=None,
            video=frozenset({"h264", "hevc", "mpeg2video"}),
            audio=frozenset({"aac", "ac3", "eac3", "mp2", "dts"}),
        ),
        Container(
            name="mpeg_ps",
            label="MPEG-PS",
            muxer=None,
            video=frozenset({"mpeg2video", "mpeg1video"}),
            audio=frozenset({"ac3", "mp2", "dts"}),
        ),
        Container(name="mp3", label="MP3", muxer="mp3", video=frozenset(), audio=frozenset({"mp3"})),
    )
}


def can_hold(container: str, video: str | None, audio: str | None) -> bool:
    """Whether Rheon can put these codecs (``None`` for no such stream) together into the container."""
    known = CONTAINERS.get(container)
    if known is None or known.muxer is None:
        return False
    return (video is None or video in known.video) and (audio is None or audio in known.audio)
