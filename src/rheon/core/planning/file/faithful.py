"""A faithful copy of a title: every track as it is, in one Matroska file. Pure."""

from __future__ import annotations

from ...catalogue import say
from ...devices import DeviceProfile, Verdict
from ...errors import BadPin, PlanError
from ...formats import AUDIO_CODECS, CONTAINERS, channels_text, codec_name, is_text
from ...media import (
    Action,
    AudioSettings,
    AudioStream,
    OutputSettings,
    Reason,
    SubtitleForm,
    SubtitleSettings,
    SubtitleStream,
)
from ..decisions import Case, Decision, explain, kind_of
from ..decisions.file import ARTWORK, CHAPTERS, NAME, PATTERN, TAGS
from ..decisions.file import CONTAINER as CONTAINER_KIND
from ..decisions.picture import CODEC
from ..decisions.range import CUT, RANGE
from ..decisions.range.cut import COPY
from ..decisions.sound import TRACK
from ..decisions.subtitles import SUBTITLES
from ..decisions.subtitles.tracks import track_name
from ..picture.video import copied
from ..plan import Plan
from ..request import PlanRequest
from ..sound.audio import sound_agrees
from .artwork import CoverPlan, plan_cover
from .estimate import Basis, estimate
from .naming import Called, called

CONTAINER = "matroska"
SETTABLE = frozenset(kind.key for kind in (*RANGE, NAME, PATTERN, *TAGS, ARTWORK))
"""What can be set by hand for a copy that keeps every track as it is."""
TEXT_FORMATS = {"mov_text": "subrip", "text": "subrip"}


def faithful_plan(request: PlanRequest, profile: DeviceProfile) -> Plan:
    """All tracks and chapters of the title, nothing encoded.

    Raises ``PlanError`` where a stream can't be kept, ``BadPin`` where something else was set by hand.
    """
    title = request.title
    if other := next((key for key in request.pins.said if key not in SETTABLE), None):
        raise BadPin(
            "A copy keeps every track as it is, so {label} can't be set for it.",
            advice="Take that back, or convert the title instead.",
            pin=other,
            label=say(kind_of(other).label),
        )
    if len(request.range.kept) > 1 or (title.joined and request.range.kept):
        raise PlanError(
            "A copy of a title as it is keeps one stretch; convert it to leave out what is between several."
        )
    if title.joined and not (title.parts_agree and all(sound_agrees(track, request) for track in title.audio)):
        raise PlanError("These parts can't follow each other as they are; convert them to one form, or copy each.")
    holds = CONTAINERS[CONTAINER]
    video = copied(title.video).settings if title.video else None
    if video is not None and video.codec not in holds.video:
        raise PlanError(
            "{label} can't hold {codec} as it is; convert it instead.",
            label=holds.label,
            codec=codec_name(video.codec),
        )
    if title.video is not None and title.video.rotation and not holds.turns:
        raise PlanError(
            "In {label} nothing says that the picture is turned, and it would lie on its side; convert it instead.",
            label=holds.label,
        )
    sound = tuple(_sound(track) for track in title.audio)
    named = called(request, profile, sound[0] if sound else None)
    cover = plan_cover(request, profile, CONTAINER)
    settings = OutputSettings(
        container=CONTAINER,
        file_name=f"{named.path}.{profile.containers[0].extension}",
        video=video,
        audio=sound,
        subtitles=tuple(_subtitle(track) for track in title.subtitles),
        tags=named.tags,
        cover=cover.cover,
        cover_place=cover.place,
        duration_s=title.duration_s,
        kept=request.range.kept,
        cut_as_copy=request.range.as_copy,
    )
    return Plan(
        title_number=title.number,
        device_ids=tuple(device.id for device in request.devices),
        balance=request.balance,
        treatment=Verdict.REWRAP,
        reason=Reason(code="faithful"),
        rules=(),
        decisions=_decisions(request, settings, named, cover),
        settings=settings,
        estimate=estimate(title, settings, Basis(video_bps=0, audio_bps=0, sampled=True)),
    )


def _sound(track: AudioStream) -> AudioSettings:
    kept = _kept_as(track)
    if kept is None and track.codec not in CONTAINERS[CONTAINER].audio:
        raise PlanError("Matroska can't hold {codec} as it is; convert it instead.", codec=codec_name(track.codec))
    return AudioSettings(
        action=Action.COPY if kept is None else Action.ENCODE,
        track=track.index,
        codec=kept or track.codec,
        channels=track.channels,
        sample_rate=track.sample_rate,
        source_channels=track.channels,
        bitrate_bps=None if kept is None else track.bitrate_bps,
        language=track.language,
    )


def _kept_as(track: AudioStream) -> str | None:
    """The name under which the container holds sound whose samples stay what they are."""
    known = AUDIO_CODECS.get(track.codec)
    return known.kept_as if known else None


def _subtitle(track: SubtitleStream) -> SubtitleSettings:
    return SubtitleSettings(
        track=track.index,
        is_text=is_text(track),
        form=SubtitleForm.TRACK,
        format=TEXT_FORMATS.get(track.format, track.format),
        language=track.language,
    )


def _decisions(request: PlanRequest, made: OutputSettings, named: Called, cover: CoverPlan) -> tuple[Decision, ...]:
    title = request.title
    kept = Reason(code="faithful_kept")
    video = title.video
    sounds = " + ".join(f"{codec_name(t.codec)} {channels_text(t.channels)}" for t in title.audio) or say("none")
    tracks = " + ".join(map(track_name, title.subtitles)) or say("none")
    same = Reason(code="samples_kept") if any(map(_kept_as, title.audio)) else kept
    size = f"{codec_name(video.codec)} {video.width} × {video.height}" if video else ""
    picture = say("{picture}, copied", picture=size) if video else say("none")
    case = Case(
        title=title,
        made=made,
        pins=request.pins,
        balance=request.balance,
        languages=request.languages,
        file_system=named.file_system,
        reasons={**request.range.reasons, **named.reasons, ARTWORK.key: cover.reason},
        offers={CUT.key: (COPY,), PATTERN.key: (named.pattern,)},
        copy_ranges=request.copy_ranges,
    )
    return (
        *explain(case, RANGE),
        Decision(key=CODEC.key, value="copy", text=picture, reason=kept),
        Decision(key=TRACK.key, value="all", text=sounds, reason=same),
        Decision(key=SUBTITLES.key, value="all", text=tracks, reason=kept),
        Decision(key=CONTAINER_KIND.key, value=CONTAINER, text="Matroska", reason=Reason(code="holds_everything")),
        *explain(case, (NAME, PATTERN, *TAGS)),
        Decision(key=CHAPTERS.key, value="keep", text=str(len(title.chapters)), reason=kept),
    )
