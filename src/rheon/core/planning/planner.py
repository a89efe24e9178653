"""From a title and devices to a plan. Pure: the same request gives the same plan."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..devices import DeviceProfile, Judgement, Verdict, careful, common_ground, judge_title
from ..errors import BadPin, PlanError
from ..formats import CONTAINERS, PLAYED_MOST
from ..media import Action, OutputSettings, Reason, WordsForm
from ..media.names import safe_stem
from .audio import AudioPlan, audio_decisions, chosen_tracks, plan_audio
from .estimate import Basis, estimate
from .faithful import faithful_plan
from .home import Home, Wish, copies_picture, find_home
from .outcome import breaches
from .picture_decisions import picture_decisions
from .pins import AUTOMATIC, one_of
from .plan import PIN_KEYS, Choice, Decision, Plan, PlanRequest
from .video import VideoPlan, copied, encoded
from .words import chosen_subtitles, settle, words_decisions, words_form

KEEP, DROP = "keep", "none"


@dataclass(frozen=True, slots=True, kw_only=True)
class _Parts:
    """Everything that was worked out, before it becomes one plan."""

    wish: Wish
    home: Home
    picture: VideoPlan | None
    sound: AudioPlan


def plan(request: PlanRequest, *, explained: bool = True) -> Plan:
    """Plan one file that serves every device of the request; without ``explained`` no decisions and rules are told.

    Only what the devices can do for sure is used; a pin may use what is doubtful.

    Raises ``BadPin`` for a pin that names nothing there is, ``PlanError`` where no one file can serve all devices.
    """
    for key in request.pins:
        if key not in PIN_KEYS:
            raise BadPin(f"“{key}” is no decision that can be set.", pin=key)
    one_of(request.pins, "picture.codec", ("copy", *PLAYED_MOST), "codec that Rheon makes")
    request = replace(request, pins={key: said for key, said in request.pins.items() if said != AUTOMATIC})
    title = request.title
    profile = common_ground(
        [careful(one) for one in request.devices], picture=title.video is not None, sound=bool(title.audio)
    )
    judged = judge_title(request.title, profile, request.languages)
    if judged.verdict is Verdict.CANNOT:
        return _nothing(request, judged.verdict, judged.reason)
    if profile.faithful:
        return faithful_plan(request, profile)
    wish = _wish(request, profile)
    untouched = set(request.pins) <= {"file.name"} and not wish.words.tracks
    if judged.verdict is Verdict.PLAYS and untouched:
        return _nothing(request, judged.verdict, judged.reason)
    home = find_home(wish, request)
    sound = plan_audio(request, profile, home.container, wish.audio)
    picture = _picture(request, wish, home, sound.bps)
    parts = _Parts(wish=wish, home=home, picture=picture, sound=sound)
    made = _made(request, parts, judged)
    return _explained(request, made, parts, judged) if explained else made


def _nothing(request: PlanRequest, verdict: Verdict, reason: Reason) -> Plan:
    return Plan(
        title_number=request.title.number,
        device_ids=tuple(device.id for device in request.devices),
        balance=request.balance,
        treatment=verdict,
        reason=reason,
        rules=(),
    )


def _wish(request: PlanRequest, profile: DeviceProfile) -> Wish:
    audio = chosen_tracks(request)
    has_picture = bool(request.title.video and profile.video)
    if not audio and not has_picture:
        raise PlanError("There would be neither picture nor sound in the file.")
    words = chosen_subtitles(request, audio[0] if audio else None)
    copy = has_picture and copies_picture(request, profile)
    if not has_picture:
        words = replace(words, tracks=())
    form = words_form(request, words, profile, picture_fits=copy)
    copy = copy and not (words.tracks and form is WordsForm.DRAWN)
    if request.pins.get("picture.codec") == "copy" and has_picture and not copy:
        raise BadPin("Nothing can be drawn into a picture that is copied.", pin="picture.codec")
    return Wish(profile=profile, audio=audio, words=words, form=form, has_picture=has_picture, copy_picture=copy)


def _picture(request: PlanRequest, wish: Wish, home: Home, sound_bps: float) -> VideoPlan | None:
    video = request.title.video
    if video is None or not wish.has_picture:
        return None
    if home.copy_picture:
        return copied(video)
    drawn = wish.words.tracks[0] if wish.words.tracks and wish.form is WordsForm.DRAWN else None
    return encoded(request, wish.profile, home.container, drawn=drawn, sound_bps=sound_bps)


def _made(request: PlanRequest, parts: _Parts, judged: Judgement) -> Plan:
    wish, home, seen, heard = parts.wish, parts.home, parts.picture, parts.sound
    stem = safe_stem(request.pins.get("file.name", request.name), wish.profile.limits.file_system)
    chapters = one_of(request.pins, "file.chapters", (KEEP, DROP), "way with chapters")
    settings = OutputSettings(
        container=home.container,
        file_name=f"{stem}.{home.extension}",
        video=seen.settings if seen else None,
        audio=heard.settings,
        subtitles=settle(wish.words, wish.form, home.container),
        name=request.name,
        duration_s=request.title.duration_s,
        chapters=chapters != DROP and CONTAINERS[home.container].chapters,
    )
    streams = (settings.video, *settings.audio)
    whole = all(part is None or part.action is Action.COPY for part in streams)
    basis = Basis(
        video_bps=seen.expected_bps if seen else 0.0,
        audio_bps=heard.bps,
        measured=request.samples is not None,
        exact=seen.exact if seen else False,
    )
    expected = estimate(request.title, settings, basis)
    return Plan(
        title_number=request.title.number,
        device_ids=tuple(device.id for device in request.devices),
        balance=request.balance,
        treatment=Verdict.REWRAP if whole else Verdict.CONVERT,
        reason=judged.reason,
        rules=(),
        breaches=breaches(request.title, settings, expected, request.devices) if request.pins else (),
        settings=settings,
        estimate=expected,
    )


def _explained(request: PlanRequest, made: Plan, parts: _Parts, judged: Judgement) -> Plan:
    """The plan with every decision and its reason."""
    settings, seen = made.settings, parts.picture
    assert settings is not None
    decisions = (
        *(picture_decisions(request, seen) if seen else ()),
        *audio_decisions(request, parts.sound),
        *(words_decisions(request, parts.wish.words, parts.wish.form) if seen else ()),
        *_file_decisions(request, settings, parts.wish),
    )
    return replace(made, rules=judged.rules, decisions=decisions)


def _file_decisions(request: PlanRequest, made: OutputSettings, wish: Wish) -> tuple[Decision, ...]:
    holds, pins = CONTAINERS[made.container], request.pins
    own: list[str] = list(dict.fromkeys(entry.format for entry in wish.profile.containers))
    pinned = "file.container" in pins
    code = "preferred_container" if own[0] == made.container else "container_for_streams"
    container = Decision(
        key="file.container",
        value=made.container,
        text=f"{holds.label}, index in front" if made.container == "mp4" else holds.label,
        reason=Reason(code="pinned" if pinned else code),
        pinned=pinned,
        choices=tuple(Choice(value=name, text=CONTAINERS[name].label) for name in _offered(own, wish)),
    )
    return container, _name_decision(request, made, wish), _chapters_decision(request, made)


def _offered(own: list[str], wish: Wish) -> list[str]:
    """The device's containers, and then the others that hold the same kinds of streams."""
    others = [name for name, holds in CONTAINERS.items() if bool(holds.video) == wish.has_picture]
    return list(dict.fromkeys([*own, *others]))


def _name_decision(request: PlanRequest, made: OutputSettings, wish: Wish) -> Decision:
    stem = made.file_name.rpartition(".")[0]
    pinned = "file.name" in request.pins
    if stem != request.pins.get("file.name", request.name):
        reason = Reason(code="name_made_safe", values={"file_system": wish.profile.limits.file_system})
    else:
        reason = Reason(code="pinned" if pinned else "name_from_label")
    return Decision(key="file.name", value=stem, text=made.file_name, reason=reason, pinned=pinned)


def _chapters_decision(request: PlanRequest, made: OutputSettings) -> Decision:
    count = len(request.title.chapters)
    able = CONTAINERS[made.container].chapters
    pinned = "file.chapters" in request.pins
    if pinned:
        code = "pinned"
    elif not count:
        code = "no_chapters_in_title"
    else:
        code = "chapters_kept" if able else "no_chapters_in_container"
    kept = bool(count and made.chapters)
    return Decision(
        key="file.chapters",
        value=KEEP if made.chapters else DROP,
        text=str(count) if kept else "none",
        reason=Reason(code=code, values={"container": CONTAINERS[made.container].label}),
        pinned=pinned,
        choices=(Choice(value=KEEP, text="kept"), Choice(value=DROP, text="none")) if count and able else (),
    )
