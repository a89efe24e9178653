"""Which tracks of a title people mean when they say nothing."""

from __future__ import annotations

from collections.abc import Sequence

from ..media import AudioStream, Purpose, SubtitleStream, same_language

ASIDE = (Purpose.COMMENTARY, Purpose.DESCRIPTION)


def preferred_audio(tracks: Sequence[AudioStream], languages: Sequence[str]) -> AudioStream | None:
    """By purpose (no commentary), then by language, then by channels, then by order; ``None`` where there is none.

    A track that was found silent comes last, and one that not every part of a join has.
    """

    def rank(track: AudioStream) -> tuple[bool, bool, bool, int, int, int]:
        return (
            track.silent,
            track.absent,
            track.purpose in ASIDE,
            language_rank(track.language, languages),
            -track.channels,
            track.index,
        )

    return min(tracks, key=rank, default=None)


def needed_subtitle(
    tracks: Sequence[SubtitleStream], audio: AudioStream | None, languages: Sequence[str]
) -> SubtitleStream | None:
    """A subtitle in one of the languages where the sound is in none of them; else ``None``."""
    if audio is None or not languages or audio.language == "und":
        return None
    if language_rank(audio.language, languages) < len(languages):
        return None
    wanted = [track for track in tracks if language_rank(track.language, languages) < len(languages)]
    return min(wanted, key=lambda track: (language_rank(track.language, languages), track.index), default=None)


def language_rank(tag: str, languages: Sequence[str]) -> int:
    """The place of a language in a list of wanted ones; the list's length where it is not among them."""
    return next((place for place, wanted in enumerate(languages) if same_language(tag, wanted)), len(languages))
