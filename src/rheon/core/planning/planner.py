"""From a title and devices to a plan. Pure: the same request gives the same plan."""

from __future__ import annotations

from dataclasses import dataclass

from ..devices import DeviceProfile, Judgement, Verdict, common_ground, judge_title
from ..devices.rules import takes_audio, takes_video
from ..errors import BadPin, PlanError
from ..media import AudioStream, Reason, SubtitleStream
from ..media.containers import CONTAINERS
from ..media.names import safe_stem
from .audio import chosen_track, encodable_audio, plan_audio
from .estimate import estimate
from .plan import PIN_KEYS, Decision, Plan, PlanRequest
from .settings import Action, OutputSettings
from .video import VideoPlan, copied, encodable_entries, encoded
from .words import chosen_subtitle, subtitle_settings, words_decision

REPAINTING = frozenset({"picture.crop", "picture.codec", "picture.height"})
"""Pins that can't be kept by copying the picture."""


@dataclass(frozen=True, slots=True, kw_only=True)
class _Wish:
    """What goes into the output before it is known how."""

    profile: DeviceProfile
    audio: AudioStream | None
    subtitle: SubtitleStream | None
    has_picture: bool
    copy_picture: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class _Home:
    """The container chosen, and whether the picture goes in as it is."""

    container: str
    extension: str
    copy_picture: bool


def plan(request: PlanRequest) -> Plan:
    """Plan one file that serves every device of the request.

    Raises ``BadPin`` for a pin that names nothing there is, ``PlanError`` where no one file can serve all devices.
    """
    for key in request.pins:
        if key not in PIN_KEYS:
            raise BadPin(f"“{key}” is no decision that can be set.", pin=key)
    profile = common_ground(request.devices)
    judged = judge_title(request.title, profile, request.languages)
    if judged.verdict is Verdict.CANNOT:
        return _nothing(request, judged.verdict, judged.reason)
    audio = chosen_track(request)
    wish = _wish(request, profile, audio)
    untouched = not {"sound.track", "words.subtitle", *REPAINTING} & set(request.pins)
    if judged.verdict is Verdict.PLAYS and untouched and wish.subtitle is None:
        return _nothing(request, judged.verdict, judged.reason)
    home = _home(wish, request)
    return _made(request, wish, home, judged)


def _nothing(request: PlanRequest, verdict: Verdict, reason: Reason) -> Plan:
    return Plan(
        title_number=request.title.number,
        device_ids=tuple(device.id for device in request.devices),
        balance=request.balance,
        treatment=verdict,
        reason=reason,
        rules=(),
    )


def _wish(request: PlanRequest, profile: DeviceProfile, audio: AudioStream | None) -> _Wish:
    video = request.title.video
    has_picture = bool(video and profile.video)
    subtitle = chosen_subtitle(request, audio) if has_picture else None
    repaint = subtitle is not None or REPAINTING & set(request.pins)
    fits = profile.limits.largest_file_bytes is None or request.title.size_bytes <= profile.limits.largest_file_bytes
    copy = bool(video and has_picture and not repaint and fits and takes_video(video, profile))
    if audio is None and not has_picture:
        raise PlanError("There would be neither picture nor sound in the file.")
    return _Wish(profile=profile, audio=audio, subtitle=subtitle, has_picture=has_picture, copy_picture=copy)


def _home(wish: _Wish, request: PlanRequest) -> _Home:
    """The container that leaves most streams untouched, the device's earlier choice first. Raises ``PlanError``."""
    best: tuple[int, _Home] | None = None
    for entry in wish.profile.containers:
        holds = CONTAINERS[entry.format]
        if holds.muxer is None:
            continue
        video = request.title.video
        copy = bool(wish.copy_picture and video and video.codec in holds.video)
        if wish.has_picture and not copy and not encodable_entries(wish.profile, entry.format):
            continue
        keep_sound = wish.audio is not None and wish.audio.codec in holds.audio
        keep_sound = keep_sound and wish.audio is not None and takes_audio(wish.audio, wish.profile)
        if wish.audio is not None and not keep_sound and not encodable_audio(wish.profile, entry.format):
            continue
        kept = 2 * copy + keep_sound
        if best is None or kept > best[0]:
            home = _Home(container=entry.format, extension=entry.extension, copy_picture=copy)
            best = (kept, home)
    if best is None:
        raise PlanError("No container of the device can hold what Rheon would make.")
    return best[1]


def _made(request: PlanRequest, wish: _Wish, home: _Home, judged: Judgement) -> Plan:
    video_plan = _picture(request, wish, home)
    sound = plan_audio(request, wish.profile, home.container, wish.audio)
    settings = OutputSettings(
        container=home.container,
        file_name=f"{safe_stem(request.pins.get('file.name', request.name), wish.profile.limits.file_system)}"
        f".{home.extension}",
        video=video_plan.settings if video_plan else None,
        audio=sound.settings,
        subtitle=subtitle_settings(wish.subtitle),
        name=request.name,
        duration_s=request.title.duration_s,
        language=wish.audio.language if wish.audio else "und",
    )
    whole = all(part is None or part.action is Action.COPY for part in (settings.video, settings.audio))
    return Plan(
        title_number=request.title.number,
        device_ids=tuple(device.id for device in request.devices),
        balance=request.balance,
        treatment=Verdict.REWRAP if whole else Verdict.CONVERT,
        reason=judged.reason,
        rules=judged.rules,
        decisions=(
            *(video_plan.decisions if video_plan else ()),
            *sound.decisions,
            *((words_decision(request, wish.subtitle),) if video_plan else ()),
            *_file_decisions(request, settings, wish),
        ),
        settings=settings,
        estimate=estimate(
            request.title,
            settings,
            video_plan.expected_bps if video_plan else 0.0,
            sound.bps,
            request.samples is not None,
        ),
    )


def _picture(request: PlanRequest, wish: _Wish, home: _Home) -> VideoPlan | None:
    video = request.title.video
    if video is None or not wish.has_picture:
        return None
    return copied(video) if home.copy_picture else encoded(request, wish.profile, home.container, wish.subtitle)


def _file_decisions(request: PlanRequest, made: OutputSettings, wish: _Wish) -> tuple[Decision, ...]:
    holds = CONTAINERS[made.container]
    first = wish.profile.containers[0].format == made.container
    wanted = request.pins.get("file.name", request.name)
    stem = made.file_name.rpartition(".")[0]
    pinned = "file.name" in request.pins
    if stem != wanted:
        reason = Reason(code="name_made_safe", values={"file_system": wish.profile.limits.file_system})
    else:
        reason = Reason(code="pinned" if pinned else "name_from_label")
    chapters = len(request.title.chapters)
    return (
        Decision(
            key="file.container",
            value=made.container,
            text=f"{holds.label}, index in front" if made.container == "mp4" else holds.label,
            reason=Reason(code="preferred_container" if first else "container_for_streams"),
        ),
        Decision(key="file.name", value=stem, text=made.file_name, reason=reason, pinned=pinned),
        Decision(
            key="file.chapters",
            value=str(chapters),
            text=f"{chapters}" if chapters else "none",
            reason=Reason(code="chapters_kept" if chapters else "no_chapters_in_title"),
        ),
    )
