"""Subtitles of an output: none, drawn into the picture, tracks that can be switched on, or text files beside it."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ...catalogue import say
from ...devices import DeviceProfile, needed_subtitle
from ...devices.tracks import language_rank
from ...formats import CONTAINERS, is_text
from ...media import AudioStream, Forced, Reason, SubtitleForm, SubtitleSettings, SubtitleStream, SubtitleWish
from ..decisions import PINNED
from ..decisions.subtitles import FORM, LINES, SUBTITLES
from ..decisions.subtitles.lines import FORCED_LINES
from ..request import PlanRequest

SIDE_FORMAT = "subrip"


@dataclass(frozen=True, slots=True, kw_only=True)
class Chosen:
    """The subtitle tracks that go along, whether only their forced lines do, and why."""

    tracks: tuple[SubtitleStream, ...]
    only_forced: bool
    reason: Reason


def chosen_subtitles(request: PlanRequest, audio: AudioStream | None) -> Chosen:
    """The tracks that are pinned (``0`` or ``0,2``), else the one that is needed or wished. Raises ``BadPin``."""
    tracks = request.title.subtitles
    lines, places = request.pins.of(LINES), request.pins.of(SUBTITLES)
    if places is None:
        chosen = _wished(request, audio)
        return chosen if lines is None else replace(chosen, only_forced=lines == FORCED_LINES)
    if all(place < len(tracks) for place in places):
        found = tuple(tracks[place] for place in places)
        return Chosen(tracks=found, only_forced=lines == FORCED_LINES, reason=PINNED)
    raise SUBTITLES.refuse("This title has no subtitle track {said}.", said=request.pins.said[SUBTITLES.key])


def subtitle_form(request: PlanRequest, chosen: Chosen, profile: DeviceProfile, *, picture_fits: bool) -> SubtitleForm:
    """Drawn in, unless that alone would make the picture be encoded, or somebody said otherwise."""
    pieces = len(request.range.kept) > 1 or bool(request.title.joined)
    several = pieces and not all(map(is_text, chosen.tracks))
    if (pinned := request.pins.of(FORM)) is not None:
        if several and pinned is SubtitleForm.TRACK:
            raise FORM.refuse("Subtitle pictures of several stretches can only be drawn in.")
        return pinned
    if not chosen.tracks or several:
        return SubtitleForm.DRAWN
    able = all(_device_takes(track, profile) for track in chosen.tracks)
    if able and (picture_fits or request.subtitles is SubtitleWish.ALWAYS or len(chosen.tracks) > 1):
        return SubtitleForm.TRACK
    return SubtitleForm.DRAWN


def settle(chosen: Chosen, form: SubtitleForm, container: str) -> tuple[SubtitleSettings, ...]:
    """The tracks as settings. Raises ``BadPin`` where a form can't be made of them."""
    if form is SubtitleForm.DRAWN and len(chosen.tracks) > 1:
        raise FORM.refuse("Only one subtitle track can be drawn into the picture.")
    return tuple(_settled(track, form, container, only_forced=chosen.only_forced) for track in chosen.tracks)


def holds_subtitles(chosen: Chosen, form: SubtitleForm, container: str) -> bool:
    """Whether the container can carry the tracks in this form."""
    return form is not SubtitleForm.TRACK or all(_track_format(track, container) for track in chosen.tracks)


def _wished(request: PlanRequest, audio: AudioStream | None) -> Chosen:
    tracks, languages = request.title.subtitles, request.languages
    if not tracks:
        return Chosen(tracks=(), only_forced=False, reason=Reason(code="no_subtitles_in_title"))
    if request.subtitles is SubtitleWish.NEVER:
        return Chosen(tracks=(), only_forced=False, reason=Reason(code="subtitles_never"))
    needed = needed_subtitle(tracks, audio, languages)
    if needed is not None:
        return Chosen(tracks=(needed,), only_forced=False, reason=Reason(code="sound_is_foreign"))
    if request.subtitles is SubtitleWish.FORCED:
        return _forced(request)
    if request.subtitles is SubtitleWish.ALWAYS:
        own = [track for track in tracks if language_rank(track.language, languages) < len(languages)]
        own = [track for track in own if track.forced is not Forced.ALL]
        if own:
            best = min(own, key=lambda track: (language_rank(track.language, languages), track.index))
            return Chosen(tracks=(best,), only_forced=False, reason=Reason(code="subtitles_always"))
        return Chosen(tracks=(), only_forced=False, reason=Reason(code="no_subtitles_of_yours"))
    return Chosen(tracks=(), only_forced=False, reason=Reason(code="sound_is_understood"))


def _forced(request: PlanRequest) -> Chosen:
    """The track that holds forced lines in one of the household's languages; a track of nothing else first."""
    languages = request.languages
    found = [
        track
        for track in request.title.subtitles
        if track.forced in (Forced.ALL, Forced.SOME) and language_rank(track.language, languages) < len(languages)
    ]
    if not found:
        return Chosen(tracks=(), only_forced=False, reason=Reason(code="no_forced_lines"))
    best = min(found, key=lambda t: (language_rank(t.language, languages), t.forced is Forced.SOME, t.index))
    return Chosen(tracks=(best,), only_forced=best.forced is Forced.SOME, reason=Reason(code="forced_wished"))


def _device_takes(track: SubtitleStream, profile: DeviceProfile) -> bool:
    wanted = "text_track" if is_text(track) else "picture_track"
    return any(entry.form == wanted for entry in profile.subtitles)


def _track_format(track: SubtitleStream, container: str) -> str | None:
    holds = CONTAINERS[container]
    if is_text(track):
        return holds.text
    return track.format if track.format in holds.pictures else None


def _settled(track: SubtitleStream, form: SubtitleForm, container: str, *, only_forced: bool) -> SubtitleSettings:
    written = ""
    if form is SubtitleForm.TRACK:
        found = _track_format(track, container)
        if found is None:
            kind = "text" if is_text(track) else say("subtitle pictures")
            raise FORM.refuse(
                "{container} can't carry {kind} as a track.", container=CONTAINERS[container].label, kind=kind
            )
        written = found
    elif form is SubtitleForm.FILE:
        if not is_text(track):
            raise FORM.refuse("Subtitle pictures can't become a text file.")
        written = SIDE_FORMAT
    return SubtitleSettings(
        track=track.index,
        is_text=is_text(track),
        form=form,
        format=written,
        only_forced=not is_text(track) and only_forced,
        language=track.language,
    )
