"""The registry of containers: which codecs each can hold, and what files in it are called."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field


@dataclass(frozen=True, slots=True, kw_only=True)
class Container:
    """A container: its name for people, the engine's muxer, what may go in, and the extension that is usual for it.

    ``read_as`` is the engine's word for a file of it. ``tags`` are the codes under which codecs go in where the muxer
    would take another one; ``muxing`` are arguments that only its muxer understands.
    ``text`` is the format in which it carries text subtitles, ``pictures`` those of picture subtitles that it carries.
    ``own_times`` says that each picture has a time of its own, ``keeps_start`` that the first one need not come at
    zero, ``tells_priming`` that players are told of the silence an audio encoder puts in front,
    ``turns`` that they are told how a stored picture is to be turned. ``tags_room`` bytes are kept free for tags in
    front of the streams, so that writing others moves nothing. ``cover`` says that a picture of the work goes in.
    """

    name: str
    label: str
    muxer: str
    extension: str
    read_as: str = ""
    tags: Mapping[str, str] = field(default_factory=dict)
    muxing: tuple[str, ...] = ()
    video: frozenset[str]
    audio: frozenset[str]
    text: str | None = None
    pictures: frozenset[str] = frozenset()
    chapters: bool = True
    own_times: bool = False
    keeps_start: bool = True
    tells_priming: bool = True
    turns: bool = False
    tags_room: int = 0
    cover: bool = False


CONTAINERS: dict[str, Container] = {
    container.name: container
    for container in (
        Container(
            name="mp4",
            cover=True,
            own_times=True,
            turns=True,
            tags_room=8192,
            label="MP4",
            muxer="mp4",
            read_as="mov,mp4,m4a,3gp,3g2,mj2",
            tags={"hevc": "hvc1"},
            muxing=("-movflags", "+faststart"),
            extension="mp4",
            video=frozenset({"h264", "hevc", "mpeg4", "av1", "vp9"}),
            audio=frozenset({"aac", "mp3", "ac3", "eac3", "alac"}),
            text="mov_text",
        ),
        Container(
            name="matroska",
            cover=True,
            own_times=True,
            label="Matroska",
            muxer="matroska",
            read_as="matroska,webm",
            extension="mkv",
            video=frozenset(
                {"h264", "hevc", "mpeg4", "mpeg2video", "mpeg1video", "vp8", "vp9", "av1", "mjpeg", "wmv2", "vc1"}
            ),
            audio=frozenset(
                {
                    "aac",
                    "mp3",
                    "mp2",
                    "ac3",
                    "eac3",
                    "dts",
                    "truehd",
                    "flac",
                    "opus",
                    "vorbis",
                    "pcm_s16le",
                    "pcm_s24le",
                    "wmav2",
                }
            ),
            text="subrip",
            pictures=frozenset({"dvd_subtitle", "hdmv_pgs_subtitle"}),
        ),
        Container(
            name="webm",
            own_times=True,
            label="WebM",
            muxer="webm",
            extension="webm",
            video=frozenset({"vp8", "vp9", "av1"}),
            audio=frozenset({"opus", "vorbis"}),
            text="webvtt",
        ),
        Container(
            name="avi",
            tells_priming=False,
            keeps_start=False,
            label="AVI",
            muxer="avi",
            # what lies before zero would push all pictures back by an empty one
            muxing=("-avoid_negative_ts", "disabled"),
            extension="avi",
            video=frozenset({"mpeg4", "mjpeg"}),
            audio=frozenset({"mp3", "ac3", "mp2", "pcm_s16le"}),
            chapters=False,
        ),
        Container(
            name="asf",
            label="ASF",
            muxer="asf",
            read_as="asf",
            extension="wmv",
            video=frozenset({"wmv2", "mpeg4"}),
            audio=frozenset({"wmav2", "mp3"}),
            chapters=False,
        ),
        Container(
            name="mpeg_ts",
            label="MPEG-TS",
            muxer="mpegts",
            read_as="mpegts",
            extension="ts",
            video=frozenset({"h264", "hevc", "mpeg2video"}),
            audio=frozenset({"aac", "ac3", "eac3", "mp2", "dts"}),
            chapters=False,
        ),
        Container(
            name="mpeg_ps",
            label="MPEG-PS",
            muxer="vob",
            read_as="mpeg",
            extension="mpg",
            video=frozenset({"mpeg2video", "mpeg1video"}),
            audio=frozenset({"ac3", "mp2", "dts"}),
            chapters=False,
        ),
        Container(
            name="mp3",
            cover=True,
            label="MP3",
            muxer="mp3",
            extension="mp3",
            muxing=("-id3v2_version", "3"),
            video=frozenset(),
            audio=frozenset({"mp3"}),
        ),
        Container(
            name="flac",
            cover=True,
            label="FLAC",
            muxer="flac",
            extension="flac",
            video=frozenset(),
            audio=frozenset({"flac"}),
        ),
        Container(
            name="ogg",
            cover=True,
            label="Ogg",
            muxer="ogg",
            extension="opus",
            video=frozenset(),
            audio=frozenset({"opus", "vorbis", "flac"}),
        ),
    )
}
READ_AS = {container.read_as: name for name, container in CONTAINERS.items() if container.read_as}


INDEXED = frozenset({"mp4", "matroska", "webm", "avi", "mp3", "flac", "ogg", "wav"})
"""Containers that list where pictures lie, or are small steps; in others a place is guessed, and found near it only."""


def can_hold(container: str, video: str | None, audio: str | None) -> bool:
    """Whether Rheon can put these codecs (``None`` for no such stream) together into the container."""
    known = CONTAINERS.get(container)
    if known is None:
        return False
    return (video is None or video in known.video) and (audio is None or audio in known.audio)
