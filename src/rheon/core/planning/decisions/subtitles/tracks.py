"""Which subtitles go along."""

from __future__ import annotations

from ....catalogue import say
from ....media import Forced, SubtitleStream, Title, language_name
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, Tracks
from ..transfer import transferred_tracks
from .form import TEXTS

NONE = "none"


def track_name(track: SubtitleStream) -> str:
    name = language_name(track.language)
    name = name[:1].upper() + name[1:]
    return say("{language}, forced lines", language=name) if track.forced is Forced.ALL else name


def _transferred(places: tuple[int, ...], source: Title, target: Title) -> tuple[str, tuple[str, ...]]:
    return transferred_tracks(places, source.subtitles, target.subtitles)


def _show(case: Case) -> Shown | None:
    if case.made.video is None:
        return None
    tracks = [case.title.subtitles[subtitle.track] for subtitle in case.made.subtitles]
    names = " + ".join(map(track_name, tracks)) or NONE
    value = ",".join(str(track.index) for track in tracks) or NONE
    choices = _choices(case.title)
    if value not in [choice.value for choice in choices]:
        choices = (*choices, Choice(value=value, text=names))
    form = case.made.subtitles[0].form if tracks else None
    return Shown(
        value=value,
        text=say("{tracks}, {form}", tracks=names, form=say(TEXTS[form])) if form else say("none"),
        reason=case.reasons[SUBTITLES.key],
        choices=choices,
    )


def _choices(title: Title) -> tuple[Choice, ...]:
    tracks = title.subtitles
    listed = tuple(Choice(value=str(track.index), text=track_name(track)) for track in tracks)
    every = ",".join(str(track.index) for track in tracks)
    both = (Choice(value=every, text=say("all {count}, as tracks", count=len(tracks))),) if len(tracks) > 1 else ()
    return (Choice(value=NONE, text=say("none")), *listed, *both)


SUBTITLES = DecisionKind(
    key="subtitles.track",
    label="Subtitle",
    help="Subtitle tracks, counted from 0.",
    form=Tracks("subtitle"),
    show=_show,
    transferred=_transferred,
)
