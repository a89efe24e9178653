"""Asking a device what it plays: the sample clips it is given, and the profile that its answers add up to. Pure."""

from __future__ import annotations

from collections.abc import Container, Iterable, Sequence
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from ..catalogue import later, say
from ..formats import channels_text, codec_name, level_rank, profiles_of
from .profile import (
    AudioEntry,
    ContainerEntry,
    DeviceKind,
    DeviceProfile,
    Evidence,
    Ground,
    Limits,
    Screen,
    Sure,
    VideoEntry,
)

SMOOTH_SHARE = 0.25
"""The share of dropped frames up to which a picture counts as played."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Clip:
    """A tiny sample: what is in it, and its type as browsers are asked for it (RFC 6381)."""

    id: str
    container: str
    mime: str
    video: str | None = None
    profile: str | None = None
    level: str | None = None
    width: int = 0
    height: int = 0
    rate: int = 30
    depth: int = 8
    audio: str | None = None
    channels: int = 0

    @property
    def text(self) -> str:
        """What the clip holds, for people."""
        if self.video:
            fine = f" {self.depth} bit" if self.depth > 8 else ""
            return f"{codec_name(self.video)} {self.width} × {self.height} at {self.rate}{fine}"
        return f"{codec_name(self.audio or '')} {channels_text(self.channels)}"


def _picture(name: str, codec: str, tag: str, size: tuple[int, int, int], **more: object) -> Clip:
    container = str(more.pop("container", "mp4"))
    mime = f'video/{"x-matroska" if container == "matroska" else container}; codecs="{tag}"'
    width, height, rate = size
    return Clip(
        id=name,
        container=container,
        mime=mime,
        video=codec,
        width=width,
        height=height,
        rate=rate,
        **more,  # type: ignore[arg-type]
    )


def _sound(name: str, codec: str, mime: str, channels: int, container: str = "mp4") -> Clip:
    return Clip(id=name, container=container, mime=mime, audio=codec, channels=channels)


SD, HD, FULL, FULL_60, UHD = (720, 480, 30), (1280, 720, 30), (1920, 1080, 30), (1920, 1080, 60), (3840, 2160, 30)
CLIPS: tuple[Clip, ...] = (
    _picture("h264-sd", "h264", "avc1.42E01E", SD, profile="baseline", level="3"),
    _picture("h264-hd", "h264", "avc1.4D401F", HD, profile="main", level="3.1"),
    _picture("h264-full", "h264", "avc1.640028", FULL, profile="high", level="4"),
    _picture("h264-full-60", "h264", "avc1.64002A", FULL_60, profile="high", level="4.2"),
    _picture("h264-uhd", "h264", "avc1.640033", UHD, profile="high", level="5.1"),
    _picture("hevc-full", "hevc", "hvc1.1.6.L120.B0", FULL, profile="main", level="4"),
    _picture("hevc-uhd", "hevc", "hvc1.1.6.L150.B0", UHD, profile="main", level="5"),
    _picture("hevc-ten", "hevc", "hvc1.2.4.L120.B0", FULL, profile="main10", level="4", depth=10),
    _picture("vp9-full", "vp9", "vp09.00.40.08", FULL, profile="profile0", level="4", container="webm"),
    _picture("vp9-uhd", "vp9", "vp09.00.50.08", UHD, profile="profile0", level="5", container="webm"),
    _picture("av1-full", "av1", "av01.0.08M.08", FULL, profile="main", level="4.0", container="webm"),
    _picture("av1-uhd", "av1", "av01.0.12M.08", UHD, profile="main", level="5.0", container="webm"),
    _picture("mpeg4-sd", "mpeg4", "mp4v.20.9", SD, profile="simple", level="5"),
    _picture("h264-matroska", "h264", "avc1.42E01E", SD, profile="baseline", level="3", container="matroska"),
    _sound("aac-stereo", "aac", 'audio/mp4; codecs="mp4a.40.2"', 2),
    _sound("aac-surround", "aac", 'audio/mp4; codecs="mp4a.40.2"', 6),
    _sound("mp3-stereo", "mp3", "audio/mpeg", 2, "mp3"),
    _sound("ac3-surround", "ac3", 'audio/mp4; codecs="ac-3"', 6),
    _sound("eac3-surround", "eac3", 'audio/mp4; codecs="ec-3"', 6),
    _sound("opus-stereo", "opus", 'audio/webm; codecs="opus"', 2, "webm"),
    _sound("vorbis-stereo", "vorbis", 'audio/webm; codecs="vorbis"', 2, "webm"),
    _sound("flac-stereo", "flac", "audio/flac", 2, "flac"),
)
EXTENSIONS = {"mp4": "mp4", "webm": "webm", "matroska": "mkv", "mp3": "mp3", "flac": "flac"}


TOLD = later("Its browser told its size.")


class _Said(BaseModel):
    model_config = ConfigDict(frozen=True, extra="ignore")


class ClipAnswer(_Said):
    """What a device said and did about one clip. ``played`` is ``untried`` where it would not let itself be tried."""

    id: Annotated[str, Field(max_length=40)]
    can_play: Literal["", "maybe", "probably"] = ""
    source: bool | None = None
    supported: bool | None = None
    smooth: bool | None = None
    played: Literal["yes", "no", "untried"] = "untried"
    frames: Annotated[int, Field(ge=0, le=100_000)] = 0
    dropped: Annotated[int, Field(ge=0, le=100_000)] = 0

    @property
    def says_yes(self) -> bool:
        return bool(self.supported or self.source or self.can_play == "probably")

    @property
    def does(self) -> bool:
        return self.played == "yes" and self.dropped <= SMOOTH_SHARE * max(1, self.frames)


class DeviceAnswers(_Said):
    """Everything a device answered: its screen in device pixels, whether one touches it, and each clip."""

    width: Annotated[int, Field(ge=1, le=20_000)]
    height: Annotated[int, Field(ge=1, le=20_000)]
    touch: bool = False
    clips: Annotated[tuple[ClipAnswer, ...], Field(max_length=len(CLIPS))]


def asked_profile(answers: DeviceAnswers, name: str) -> DeviceProfile:
    """The profile that the answers add up to. Raises ``ValueError`` where it plays nothing at all."""
    given = {answer.id: answer for answer in answers.clips}
    evidence: list[Evidence] = []
    pictures = [clip for clip in CLIPS if clip.video and _taken(clip, given, evidence)]
    sounds = [clip for clip in CLIPS if clip.audio and _taken(clip, given, evidence)]
    if not sounds:
        raise ValueError("The device played none of the sounds it was given.")
    wide = max(answers.width, answers.height), min(answers.width, answers.height)
    containers = list(dict.fromkeys(clip.container for clip in (*pictures, *sounds)))
    did = {answer.id for answer in answers.clips if answer.does}
    in_each = {name: [clip for clip in (*pictures, *sounds) if clip.container == name] for name in containers}
    return DeviceProfile(
        id="asked-device",
        name=name,
        kind=_kind(answers),
        about=say("Asked itself what it plays, by its browser."),
        screen=Screen(width=wide[0], height=wide[1], ground=Ground(sure=Sure.KNOWN, rests_on="said", note=TOLD)),
        containers=tuple(
            ContainerEntry(format=name, extension=EXTENSIONS[name], ground=_ground(clips[0], clips, did))  # type: ignore[arg-type]
            for name, clips in in_each.items()
        ),
        video=tuple(_video(group, did) for group in _by_codec(pictures)),
        audio=tuple(_audio(group, did) for group in _by_codec(sounds)),
        limits=Limits(
            ground=Ground(sure=Sure.SUPPOSED, rests_on="class", note=say("A browser does not tell its storage."))
        ),
        evidence=(
            *evidence,
            Evidence(line="limits", rests_on="assumed", note=say("A browser does not tell its storage.")),
        ),
    )


def _taken(clip: Clip, given: dict[str, ClipAnswer], evidence: list[Evidence]) -> bool:
    """Whether the clip counts as played; what was really seen goes before what was said."""
    answer = given.get(clip.id)
    if answer is None:
        return False
    if answer.played == "untried":
        note = say("It says that it plays this; it did not let itself be tried.")
        if answer.says_yes:
            evidence.append(Evidence(line=clip.text, rests_on="said", note=note))
        return answer.says_yes
    if answer.does:
        seen = (
            say("{frames} frames, {dropped} dropped", frames=answer.frames, dropped=answer.dropped)
            if clip.video
            else say("it was heard to its end")
        )
        evidence.append(Evidence(line=clip.text, rests_on="played", note=seen))
    elif answer.says_yes:
        why = say("too many frames were dropped") if answer.played == "yes" else say("it did not play")
        evidence.append(
            Evidence(
                line=clip.text, rests_on="played", note=say("Left out: it says that it plays this, but {why}.", why=why)
            )
        )
    return answer.does


def _by_codec(clips: Iterable[Clip]) -> list[list[Clip]]:
    groups: dict[str, list[Clip]] = {}
    for clip in clips:
        groups.setdefault(clip.video or clip.audio or "", []).append(clip)
    return list(groups.values())


def _video(group: Sequence[Clip], did: Container[str]) -> VideoEntry:
    codec = group[0].video or ""
    order = profiles_of(codec)
    best = max((clip.profile or "" for clip in group), key=lambda name: order.index(name) if name in order else -1)
    upto = order.index(best) + 1 if best in order else 0
    top = max(group, key=lambda clip: level_rank(codec, best, clip.level or ""))
    largest = max(group, key=lambda clip: clip.width * clip.height)
    depths = sorted({clip.depth for clip in group})
    return VideoEntry(
        codec=codec,
        profiles=order[:upto] if codec != "vp9" else (),
        max_level=top.level,
        max_width=largest.width,
        max_height=largest.height,
        max_frame_rate=str(max(clip.rate for clip in group)),
        bit_depths=tuple(depths),
        ground=_ground(largest, [largest], did),
    )


def _audio(group: Sequence[Clip], did: Container[str]) -> AudioEntry:
    codec = group[0].audio or ""
    widest = max(group, key=lambda clip: clip.channels)
    rates = (48000,) if codec in ("opus", "ac3", "eac3") else (44100, 48000)
    ground = _ground(widest, [widest], did)
    return AudioEntry(codec=codec, max_channels=widest.channels, sample_rates=rates, ground=ground)


def _ground(shown: Clip, clips: Iterable[Clip], did: Container[str]) -> Ground:
    """Proven where one of the clips was really played, else only said."""
    if any(clip.id in did for clip in clips):
        return Ground(
            sure=Sure.PROVEN, rests_on="played", point=shown.mime, note=say("Its browser played a clip of this.")
        )
    return Ground(
        sure=Sure.SUPPOSED, rests_on="said", point=shown.mime, note=say("Its browser says that it plays this.")
    )


def _kind(answers: DeviceAnswers) -> DeviceKind:
    """A guess that the person can put right: touched ones are phones or tablets, large ones TVs, the rest computers."""
    shorter = min(answers.width, answers.height)
    if answers.touch:
        return DeviceKind.TABLET if shorter >= 1200 else DeviceKind.PHONE
    return DeviceKind.BROWSER if max(answers.width, answers.height) < 3840 else DeviceKind.TV
