"""Which tracks of sound go along."""

from __future__ import annotations

from collections.abc import Sequence

from ....catalogue import say
from ....devices.tracks import language_rank
from ....media import AudioStream, Reason, Title, language_name
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, Tracks
from ..transfer import transferred_tracks
from .common import every, track_text

NONE = "none"


def _transferred(places: tuple[int, ...], source: Title, target: Title) -> tuple[str, tuple[str, ...]]:
    return transferred_tracks(places, source.audio, target.audio)


def _show(case: Case) -> Shown | None:
    tracks = [case.title.audio[sound.track] for sound in case.made.audio]
    choices = _choices(case.title.audio)
    if not tracks:
        return Shown(value=NONE, text=say("no sound"), reason=Reason(code="no_sound_in_title"), choices=choices)
    value = ",".join(str(track.index) for track in tracks)
    text = " + ".join(map(track_text, tracks))
    if value not in [choice.value for choice in choices]:
        choices = (Choice(value=value, text=text), *choices)
    return Shown(value=value, text=text, reason=_reason(case, tracks[0]), choices=choices)


def _reason(case: Case, track: AudioStream) -> Reason:
    if len(case.title.audio) == 1:
        return Reason(code="only_track")
    if language_rank(track.language, case.languages) < len(case.languages):
        return Reason(code="your_language", values={"language": language_name(track.language)})
    return Reason(code="most_channels")


def _choices(tracks: Sequence[AudioStream]) -> tuple[Choice, ...]:
    listed = tuple(Choice(value=str(track.index), text=track_text(track)) for track in tracks)
    both = (
        (Choice(value=every(tracks), text=say("all {count}, the first plays", count=len(tracks))),)
        if len(tracks) > 1
        else ()
    )
    return (*listed, *both, Choice(value=NONE, text=say("no sound")))


TRACK = DecisionKind(
    key="sound.track",
    label="Track",
    help="Tracks of sound, counted from 0; the first is the one that plays.",
    form=Tracks("audio"),
    show=_show,
    transferred=_transferred,
)
