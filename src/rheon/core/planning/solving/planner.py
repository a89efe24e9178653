"""From a title and devices to a plan. Pure: the same request gives the same plan."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ...devices import DeviceProfile, Judgement, Verdict, careful, common_ground, judge_title
from ...errors import PlanError
from ...formats import CONTAINERS
from ...media import Action, MeasuredRate, OutputSettings, Reason, SubtitleForm
from ..decisions import PINNED, Case, explain
from ..decisions.file import ARTWORK, CHAPTERS, CONTAINER, NAME, PATTERN
from ..decisions.file.chapters import DROP
from ..decisions.picture import CODEC, ENCODER
from ..decisions.picture.codec import COPY
from ..decisions.range import CUT
from ..decisions.range.cut import COPY as COPIED
from ..decisions.range.cut import EDGES, EXACT
from ..decisions.sound import SOUND, SOUND_CODEC
from ..decisions.subtitles import SUBTITLES
from ..file.artwork import CoverPlan, plan_cover
from ..file.container_choice import REPAINTING, ContainerChoice, Wish, choose_container, copies_picture
from ..file.estimate import Basis, estimate
from ..file.faithful import faithful_plan
from ..file.naming import Called, called
from ..file.outcome import breaches
from ..file.range import all_converted, with_range
from ..picture.edges import with_edges
from ..picture.held_rate import SoundRates, asked_bytes
from ..picture.video import VideoPlan, copied, encoded
from ..plan import Plan
from ..request import PlanRequest
from ..sound.audio import AudioPlan, chosen_tracks, plan_audio
from ..subtitles.choice import chosen_subtitles, settle, subtitle_form
from .shaping import ways_to_meet


@dataclass(frozen=True, slots=True, kw_only=True)
class _Parts:
    """Everything that was worked out, before it becomes one plan."""

    wish: Wish
    choice: ContainerChoice
    picture: VideoPlan | None
    sound: AudioPlan
    called: Called
    cover: CoverPlan


def plan(request: PlanRequest, *, explained: bool = True) -> Plan:
    """Plan one file that serves every device of the request; without ``explained`` no decisions and rules are told,
    nor what is made where hardware fails.

    Only what the devices can do for sure is used; a pin may use what is doubtful.

    Raises ``BadPin`` for a pin that can't be meant here, ``PlanError`` where no one file can serve all devices.
    """
    title = request.title
    profile = common_ground(
        [careful(one) for one in request.devices], picture=title.video is not None, sound=bool(title.audio)
    )
    request = with_range(request, copies_only=profile.faithful)
    judged = judge_title(request.title, profile, request.languages)
    if judged.verdict is Verdict.CANNOT:
        return _nothing(request, judged.verdict, judged.reason)
    if profile.faithful:
        return faithful_plan(request, profile)
    request = _with_possible_edges(request, profile)
    if not request.range.middles:
        return _settled(request, profile, judged, explained=explained)
    return _or_else_converted(request, profile, judged, explained=explained)


def _with_possible_edges(request: PlanRequest, profile: DeviceProfile) -> PlanRequest:
    """The request as it is, or all converted where nothing that Rheon makes could stand beside what is copied."""
    video, middles = request.title.video, request.range.middles
    if middles and video is not None and with_edges(copied(video).settings, video, profile) is not None:
        return request
    if request.pins.of(CUT) == EDGES and request.range.kept:
        raise CUT.refuse("Rheon makes no pictures that could follow these, so nothing can be copied between edges.")
    return all_converted(request, Reason(code="cut_exact")) if middles else request


def _or_else_converted(request: PlanRequest, profile: DeviceProfile, judged: Judgement, *, explained: bool) -> Plan:
    """What is copied between encoded edges, with what is made instead; converted where the picture can't stay."""
    made = _settled(request, profile, judged, explained=explained)
    copies = made.settings is not None and bool(made.settings.middles)
    if not copies and request.pins.of(CUT) == EDGES:
        raise CUT.refuse("The picture has to be made anew here, so nothing of it can be copied between edges.")
    reason = Reason(code="cut_edges_failed" if copies else "cut_exact")
    instead = _settled(all_converted(request, reason), profile, judged, explained=explained)
    return replace(made, instead=instead) if copies else instead


def _settled(request: PlanRequest, profile: DeviceProfile, judged: Judgement, *, explained: bool) -> Plan:
    """The plan for what is kept of a title, as it was settled how that is cut."""
    wish = _wish(request, profile)
    untouched = set(request.pins.said) <= {NAME.key, PATTERN.key} and not wish.subtitles.tracks
    untouched = untouched and not request.set_by_hand
    if judged.verdict is Verdict.PLAYS and untouched:
        return _nothing(request, judged.verdict, judged.reason)
    choice = choose_container(wish, request)
    sound = plan_audio(request, profile, choice.container, wish.audio)
    picture = _picture(request, wish, choice, sound)
    first = sound.settings[0] if sound.settings else None
    named = called(request, profile, first, only_sound=picture is None)
    cover = plan_cover(request, profile, choice.container)
    parts = _Parts(wish=wish, choice=choice, picture=picture, sound=sound, called=named, cover=cover)
    made = _made(request, parts, judged)
    if not explained:
        return made
    told = _explained(request, made, parts, judged)
    if not _by_hardware(made):
        return told
    # a device that fails in the middle fails often: everything is made anew by what is always there
    return replace(told, instead=_settled(replace(request, hardware_failed=True), profile, judged, explained=True))


def _by_hardware(made: Plan) -> bool:
    video = made.settings.video if made.settings else None
    return video is not None and bool(video.device)


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
    subtitles = chosen_subtitles(request, audio[0] if audio else None)
    copy = has_picture and copies_picture(request, profile)
    if not has_picture:
        subtitles = replace(subtitles, tracks=())
    form = subtitle_form(request, subtitles, profile, picture_fits=copy)
    copy = copy and not (subtitles.tracks and form is SubtitleForm.DRAWN)
    if request.pins.of(CODEC) == COPY and has_picture and not copy:
        raise CODEC.refuse("Nothing can be drawn into a picture that is copied.")
    return Wish(
        profile=profile, audio=audio, subtitles=subtitles, form=form, has_picture=has_picture, copy_picture=copy
    )


def _picture(request: PlanRequest, wish: Wish, choice: ContainerChoice, sound: AudioPlan) -> VideoPlan | None:
    video = request.title.video
    if video is None or not wish.has_picture:
        return None
    if choice.copy_picture:
        made = copied(video)
        edged = with_edges(made.settings, video, wish.profile) if request.range.middles else None
        return replace(made, settings=edged) if edged else made
    drawn = wish.subtitles.tracks[0] if wish.subtitles.tracks and wish.form is SubtitleForm.DRAWN else None
    taken = SoundRates(expected_bps=sound.bps, most_bps=sound.most_bps)
    return encoded(request, wish.profile, choice.container, drawn=drawn, sound=taken)


def _made(request: PlanRequest, parts: _Parts, judged: Judgement) -> Plan:
    wish, choice, seen, heard = parts.wish, parts.choice, parts.picture, parts.sound
    settings = OutputSettings(
        container=choice.container,
        file_name=f"{parts.called.path}.{choice.extension}",
        video=seen.settings if seen else None,
        audio=heard.settings,
        subtitles=settle(wish.subtitles, wish.form, choice.container),
        tags=parts.called.tags,
        cover=parts.cover.cover,
        cover_place=parts.cover.place,
        duration_s=request.title.duration_s,
        chapters=request.pins.of(CHAPTERS) != DROP and CONTAINERS[choice.container].chapters,
        kept=request.range.kept,
        cut_as_copy=request.range.as_copy,
        middles=request.range.middles if seen and seen.settings.edges else (),
        asked_bytes=asked_bytes(request.pins),
    )
    streams = (settings.video, *settings.audio)
    whole = all(part is None or part.action is Action.COPY for part in streams)
    basis = Basis(
        video_bps=seen.expected_bps if seen else 0.0,
        audio_bps=heard.bps,
        sampled=request.samples is not None,
        exact=seen.exact if seen else False,
        pixels_per_s=seen.pixels_per_s if seen else None,
        measured_rate=_measured_rate(request, settings),
    )
    expected = estimate(request.title, settings, basis).at_pace(request.machine.pace)
    return Plan(
        title_number=request.title.number,
        device_ids=tuple(device.id for device in request.devices),
        balance=request.balance,
        treatment=Verdict.REWRAP if whole else Verdict.CONVERT,
        reason=_treated_for(request, judged, wish, settings),
        rules=(),
        breaches=breaches(request.title, settings, expected, request.devices) if request.pins else (),
        settings=settings,
        estimate=expected,
    )


def _measured_rate(request: PlanRequest, settings: OutputSettings) -> MeasuredRate | None:
    """By seconds of this very file, else by those of the same picture of the whole title."""
    rates = request.measured_rates
    if not rates:
        return None
    if found := rates.get(settings.picture_mark):
        return found
    whole = rates.get(replace(settings, kept=()).picture_mark)
    return whole.elsewhere() if whole else None


def _treated_for(request: PlanRequest, judged: Judgement, wish: Wish, settings: OutputSettings) -> Reason:
    """Why anything is made, and why more than the title would need for the device."""
    a_part = request.range.kept or request.cut_exactly
    fits = judged.verdict in (Verdict.PLAYS, Verdict.REWRAP) and not judged.broken
    if a_part and fits:
        return Reason(code="only_a_part")
    if judged.verdict.rank < Verdict.CONVERT.rank and (code := _made_anew_for(request, wish, settings)):
        return Reason(code=code)
    plays = judged.verdict is Verdict.PLAYS and request.set_by_hand
    return Reason(code="plays_without_what_was_set") if plays else judged.reason


def _made_anew_for(request: PlanRequest, wish: Wish, settings: OutputSettings) -> str | None:
    """Why a stream is encoded that the device takes as it is; ``None`` where none is, or nobody asked for it."""
    if settings.video is not None and settings.video.action is Action.ENCODE:
        if request.pins.in_group(REPAINTING):
            return "picture_by_hand"
        return "drawn_into_picture" if wish.subtitles.tracks and wish.form is SubtitleForm.DRAWN else None
    encodes = any(sound.action is Action.ENCODE for sound in settings.audio)
    return "sound_by_hand" if encodes and request.pins.any_of(SOUND) else None


def _explained(request: PlanRequest, made: Plan, parts: _Parts, judged: Judgement) -> Plan:
    """The plan with every decision and its reason."""
    wish, settings = parts.wish, made.settings
    assert settings is not None
    own: list[str] = list(dict.fromkeys(entry.format for entry in wish.profile.containers))
    code = "preferred_container" if own[0] == settings.container else "container_for_streams"
    case = Case(
        title=request.title,
        made=settings,
        pins=request.pins,
        balance=request.balance,
        languages=request.languages,
        file_system=parts.called.file_system,
        copy_ranges=request.copy_ranges,
        reasons={
            **request.range.reasons,
            **(parts.picture.reasons if parts.picture else {}),
            SOUND_CODEC.key: parts.sound.reason or PINNED,
            SUBTITLES.key: wish.subtitles.reason,
            CONTAINER.key: Reason(code=code),
            ARTWORK.key: parts.cover.reason,
            **parts.called.reasons,
        },
        offers={
            **ways_to_meet(wish.profile),
            CODEC.key: parts.picture.options if parts.picture else (),
            ENCODER.key: parts.picture.hardware if parts.picture else (),
            SOUND_CODEC.key: parts.sound.offered,
            CONTAINER.key: tuple(_offered(own, wish)),
            PATTERN.key: (parts.called.pattern,),
            **_cuts(request, settings, judged),
        },
    )
    return replace(made, rules=judged.rules, decisions=explain(case))


def _cuts(request: PlanRequest, made: OutputSettings, judged: Judgement) -> dict[str, tuple[str, ...]]:
    """The ways to cut, where one of them copies what lies between encoded edges."""
    fits = judged.verdict in (Verdict.PLAYS, Verdict.REWRAP) and not judged.broken
    by_hand = request.pins.of(CUT)
    could = request.middles and fits and by_hand is not None
    if not (made.middles or could):
        return {}
    return {CUT.key: (EDGES, EXACT, COPIED) if len(made.kept) == 1 else (EDGES, EXACT)}


def _offered(own: list[str], wish: Wish) -> list[str]:
    """The device's containers, and then the others that hold the same kinds of streams."""
    others = [name for name, holds in CONTAINERS.items() if bool(holds.video) == wish.has_picture]
    return list(dict.fromkeys([*own, *others]))
