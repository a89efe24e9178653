"""Subtitles of an output: none, or one track drawn into the picture."""

from __future__ import annotations

from ..devices import needed_subtitle
from ..errors import BadPin
from ..media import AudioStream, Reason, SubtitleStream, language_name
from .plan import Choice, Decision, PlanRequest
from .settings import SubtitleSettings


def chosen_subtitle(request: PlanRequest, audio: AudioStream | None) -> SubtitleStream | None:
    """The subtitle that is pinned, else the one that is needed to follow the sound. Raises ``BadPin``."""
    tracks = request.title.subtitles
    pinned = request.pins.get("words.subtitle")
    if pinned is None:
        return needed_subtitle(tracks, audio, request.languages)
    if pinned == "none":
        return None
    if pinned.isdigit() and int(pinned) < len(tracks):
        return tracks[int(pinned)]
    raise BadPin(f"This title has no subtitle track {pinned}.", pin="words.subtitle")


def words_decision(request: PlanRequest, drawn: SubtitleStream | None) -> Decision:
    pinned = "words.subtitle" in request.pins
    if pinned:
        code = "pinned"
    elif not request.title.subtitles:
        code = "no_subtitles_in_title"
    else:
        code = "sound_is_understood" if drawn is None else "sound_is_foreign"
    listed = tuple(
        Choice(value=str(track.index), text=f"{_capital(track)}, drawn in") for track in request.title.subtitles
    )
    return Decision(
        key="words.subtitle",
        value="none" if drawn is None else str(drawn.index),
        text="none" if drawn is None else f"{_capital(drawn)}, drawn into the picture",
        reason=Reason(code=code),
        pinned=pinned,
        choices=(Choice(value="none", text="none"), *listed),
    )


def subtitle_settings(drawn: SubtitleStream | None) -> SubtitleSettings | None:
    return None if drawn is None else SubtitleSettings(track=drawn.index, is_text=drawn.is_text)


def _capital(track: SubtitleStream) -> str:
    name = language_name(track.language)
    return name[:1].upper() + name[1:]
