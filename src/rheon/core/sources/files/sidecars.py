"""What lies beside a media file and belongs to it: text subtitles and a picture."""

from __future__ import annotations

import contextlib
from collections.abc import Iterable, Sequence
from dataclasses import replace
from pathlib import Path

from ...errors import SourceError
from ...media import Artwork, Forced, SubtitlePurpose, SubtitleStream, to_bcp47
from ...subtitles import LARGEST_BYTES, read_subtitles
from ...system import check_inside, read_inside

TEXT_FORMATS = {".srt": "subrip", ".ass": "ass", ".ssa": "ass", ".vtt": "webvtt"}
PICTURES = frozenset({".jpg", ".jpeg", ".png", ".webp"})
FOLDER_PICTURES = ("cover", "folder", "poster", "front")
FORCED_WORDS = frozenset({"forced"})
CAPTION_WORDS = frozenset({"sdh", "cc", "hi", "captions"})


def subtitles_beside(media: Path, siblings: Iterable[Path], first_index: int) -> tuple[SubtitleStream, ...]:
    """The text files named after the media file, as subtitle tracks: ``name.srt``, ``name.pt-BR.forced.srt``.

    Files that hold no readable lines are passed over.
    """
    found: list[SubtitleStream] = []
    for path in sorted(siblings):
        form = TEXT_FORMATS.get(path.suffix.lower())
        marks = _marks(media.stem, path.stem)
        if form is None or marks is None:
            continue
        with contextlib.suppress(SourceError, OSError):
            read_subtitles(read_inside(path, LARGEST_BYTES))
            found.append(replace(_described(marks), format=form, path=str(path), index=first_index + len(found)))
    return tuple(found)


def artwork_beside(media: Path, siblings: Sequence[Path]) -> Artwork | None:
    """The picture named after the media file, else the folder's cover."""
    pictures = {path.stem.casefold(): path for path in sorted(siblings) if path.suffix.lower() in PICTURES}
    for name in (media.stem.casefold(), *FOLDER_PICTURES):
        if name in pictures:
            with contextlib.suppress(SourceError, OSError):
                check_inside(pictures[name])
                return Artwork(path=str(pictures[name]))
    return None


def _marks(media: str, words: str) -> list[str] | None:
    """What stands between the media's name and the ending; ``None`` where the file is another's."""
    if words.casefold() == media.casefold():
        return []
    if not words.casefold().startswith(media.casefold() + "."):
        return None
    marks = words[len(media) + 1 :].split(".")
    return marks if len(marks) <= 3 else None


def _described(marks: Sequence[str]) -> SubtitleStream:
    plain = {mark.lower() for mark in marks}
    languages = [to_bcp47(mark) for mark in marks if mark.lower() not in FORCED_WORDS | CAPTION_WORDS]
    return SubtitleStream(
        index=0,
        format="",
        language=next((tag for tag in languages if tag != "und"), "und"),
        forced=Forced.ALL if plain & FORCED_WORDS else Forced.UNKNOWN,
        purpose=SubtitlePurpose.CAPTIONS if plain & CAPTION_WORDS else SubtitlePurpose.UNKNOWN,
    )
