"""What pinned tracks mean for another title: tracks by what they are, not by their place. Pure."""

from __future__ import annotations

from collections.abc import Sequence

from ...catalogue import say
from ...media import AudioStream, SubtitleStream, language_name

Streams = Sequence[AudioStream] | Sequence[SubtitleStream]


def transferred_tracks(places: tuple[int, ...], source: Streams, target: Streams) -> tuple[str, tuple[str, ...]]:
    """The pin for the other title, empty where nothing is left of it, and what could not be transferred, in words."""
    if not places:
        return "none", ()
    found, lost = [], []
    for place in places:
        wanted = source[place] if place < len(source) else None
        alike = _alike(wanted, target)
        if alike is not None:
            found.append(str(alike))
        elif wanted is not None:
            lost.append(say("no track in {language} of this kind", language=language_name(wanted.language)))
    return ",".join(dict.fromkeys(found)), tuple(lost)


def _alike(wanted: AudioStream | SubtitleStream | None, target: Streams) -> int | None:
    """The track of the same language and purpose, at the same place where there are several."""
    if wanted is None:
        return None
    same = [track for track in target if (track.language, track.purpose) == (wanted.language, wanted.purpose)]
    if isinstance(wanted, AudioStream):
        alike = [t for t in same if isinstance(t, AudioStream) and t.channels == wanted.channels]
        same = list(alike) or same
    best = min(same, key=lambda track: abs(track.index - wanted.index), default=None)
    return None if best is None else best.index
