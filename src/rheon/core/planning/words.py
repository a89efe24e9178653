"""Subtitles of an output: none, drawn into the picture, tracks that can be switched on, or text files beside it."""

from __future__ import annotations

from dataclasses import dataclass

from ..devices import DeviceProfile, needed_subtitle
from ..devices.tracks import language_rank
from ..errors import BadPin
from ..formats import CONTAINERS, is_text
from ..media import AudioStream, Forced, Reason, SubtitleSettings, SubtitleStream, WordsForm, WordsWish, language_name
from .pins import AUTOMATIC, one_of
from .plan import Choice, Decision, PlanRequest

NONE = "none"
ALL_LINES, FORCED_LINES = "all", "forced"
FORM_TEXTS = {
    WordsForm.DRAWN: "drawn into the picture",
    WordsForm.TRACK: "a track to switch on",
    WordsForm.FILE: "a text file beside the film",
}
PROFILE_FORMS = {"text_track": WordsForm.TRACK, "picture_track": WordsForm.TRACK, "text_file": WordsForm.FILE}
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
    lines = one_of(request.pins, "words.lines", (ALL_LINES, FORCED_LINES), "choice of lines")
    pinned = request.pins.get("words.subtitle", AUTOMATIC)
    if pinned == AUTOMATIC:
        chosen = _wished(request, audio)
        return chosen if lines is None else _with_lines(chosen, lines)
    if pinned == NONE:
        return Chosen(tracks=(), only_forced=False, reason=Reason(code="pinned"))
    places = pinned.split(",")
    if all(place.isdigit() and int(place) < len(tracks) for place in places):
        found = tuple(tracks[int(place)] for place in dict.fromkeys(places))
        return Chosen(tracks=found, only_forced=lines == FORCED_LINES, reason=Reason(code="pinned"))
    raise BadPin(f"This title has no subtitle track {pinned}.", pin="words.subtitle")


def words_form(request: PlanRequest, chosen: Chosen, profile: DeviceProfile, *, picture_fits: bool) -> WordsForm:
    """Drawn in, unless that alone would make the picture be encoded, or somebody said otherwise. Raises ``BadPin``."""
    pinned = one_of(request.pins, "words.form", [form.value for form in WordsForm], "form of subtitles")
    if pinned is not None:
        return WordsForm(pinned)
    if not chosen.tracks:
        return WordsForm.DRAWN
    able = all(_device_takes(track, profile) for track in chosen.tracks)
    if able and (picture_fits or request.words is WordsWish.ALWAYS or len(chosen.tracks) > 1):
        return WordsForm.TRACK
    return WordsForm.DRAWN


def settle(chosen: Chosen, form: WordsForm, container: str) -> tuple[SubtitleSettings, ...]:
    """The tracks as settings. Raises ``BadPin`` where a form can't be made of them."""
    if form is WordsForm.DRAWN and len(chosen.tracks) > 1:
        raise BadPin("Only one subtitle track can be drawn into the picture.", pin="words.form")
    return tuple(_settled(track, form, container, only_forced=chosen.only_forced) for track in chosen.tracks)


def holds_words(chosen: Chosen, form: WordsForm, container: str) -> bool:
    """Whether the container can carry the tracks in this form."""
    return form is not WordsForm.TRACK or all(_track_format(track, container) for track in chosen.tracks)


def words_decisions(request: PlanRequest, chosen: Chosen, form: WordsForm) -> tuple[Decision, ...]:
    pins = request.pins
    tracks = chosen.tracks
    names = " + ".join(map(track_name, tracks)) or NONE
    value = ",".join(str(track.index) for track in tracks) or NONE
    choices = _choices(request)
    if value not in [choice.value for choice in choices]:
        choices = (*choices, Choice(value=value, text=names))
    which = Decision(
        key="words.subtitle",
        value=value,
        text=f"{names}, {FORM_TEXTS[form]}" if tracks else NONE,
        reason=chosen.reason,
        pinned="words.subtitle" in pins,
        choices=choices,
    )
    if not tracks:
        return (which,)
    forms = [WordsForm.DRAWN, WordsForm.TRACK, *([WordsForm.FILE] if all(is_text(t) for t in tracks) else [])]
    how = Decision(
        key="words.form",
        value=form.value,
        text=FORM_TEXTS[form],
        reason=Reason(code="pinned" if "words.form" in pins else f"words_{form.value}"),
        pinned="words.form" in pins,
        choices=tuple(Choice(value=item.value, text=FORM_TEXTS[item]) for item in forms),
    )
    lines = Decision(
        key="words.lines",
        value=FORCED_LINES if chosen.only_forced else ALL_LINES,
        text="only the forced ones" if chosen.only_forced else "all",
        reason=Reason(code="pinned" if "words.lines" in pins else "lines_as_wished"),
        pinned="words.lines" in pins,
        fine=True,
        choices=(Choice(value=ALL_LINES, text="all"), Choice(value=FORCED_LINES, text="only the forced ones")),
    )
    return which, how, lines


def track_name(track: SubtitleStream) -> str:
    name = language_name(track.language)
    forced = ", forced lines" if track.forced is Forced.ALL else ""
    return name[:1].upper() + name[1:] + forced


def _wished(request: PlanRequest, audio: AudioStream | None) -> Chosen:
    tracks, languages = request.title.subtitles, request.languages
    if not tracks:
        return Chosen(tracks=(), only_forced=False, reason=Reason(code="no_subtitles_in_title"))
    if request.words is WordsWish.NEVER:
        return Chosen(tracks=(), only_forced=False, reason=Reason(code="words_never"))
    needed = needed_subtitle(tracks, audio, languages)
    if needed is not None:
        return Chosen(tracks=(needed,), only_forced=False, reason=Reason(code="sound_is_foreign"))
    if request.words is WordsWish.FORCED:
        return _forced(request)
    if request.words is WordsWish.ALWAYS:
        own = [track for track in tracks if language_rank(track.language, languages) < len(languages)]
        own = [track for track in own if track.forced is not Forced.ALL]
        if own:
            best = min(own, key=lambda track: (language_rank(track.language, languages), track.index))
            return Chosen(tracks=(best,), only_forced=False, reason=Reason(code="words_always"))
        return Chosen(tracks=(), only_forced=False, reason=Reason(code="no_words_of_yours"))
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


def _with_lines(chosen: Chosen, lines: str) -> Chosen:
    return Chosen(tracks=chosen.tracks, only_forced=lines == FORCED_LINES, reason=chosen.reason)


def _device_takes(track: SubtitleStream, profile: DeviceProfile) -> bool:
    wanted = "text_track" if is_text(track) else "picture_track"
    return any(entry.form == wanted for entry in profile.subtitles)


def _track_format(track: SubtitleStream, container: str) -> str | None:
    holds = CONTAINERS[container]
    if is_text(track):
        return holds.text
    return track.format if track.format in holds.pictures else None


def _settled(track: SubtitleStream, form: WordsForm, container: str, *, only_forced: bool) -> SubtitleSettings:
    written = ""
    if form is WordsForm.TRACK:
        found = _track_format(track, container)
        if found is None:
            kind = "text" if is_text(track) else "subtitle pictures"
            raise BadPin(f"{CONTAINERS[container].label} can't carry {kind} as a track.", pin="words.form")
        written = found
    elif form is WordsForm.FILE:
        if not is_text(track):
            raise BadPin("Subtitle pictures can't become a text file.", pin="words.form")
        written = SIDE_FORMAT
    return SubtitleSettings(
        track=track.index,
        is_text=is_text(track),
        form=form,
        format=written,
        only_forced=not is_text(track) and only_forced,
        language=track.language,
    )


def _choices(request: PlanRequest) -> tuple[Choice, ...]:
    tracks = request.title.subtitles
    listed = tuple(Choice(value=str(track.index), text=track_name(track)) for track in tracks)
    every = ",".join(str(track.index) for track in tracks)
    both = (Choice(value=every, text=f"all {len(tracks)}, as tracks"),) if len(tracks) > 1 else ()
    return (Choice(value=NONE, text=NONE), *listed, *both)
