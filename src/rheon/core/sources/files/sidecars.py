"""What lies beside a media file and belongs to it: text subtitles, chapters, facts and a picture."""

from __future__ import annotations

import contextlib
from collections.abc import Iterable, Sequence
from dataclasses import replace
from pathlib import Path

from ...chapters import LARGEST_LIST, ChapterList, read_list
from ...errors import BadChapters, SourceError
from ...media import Artwork, Beside, Forced, SubtitlePurpose, SubtitleStream, to_bcp47
from ...naming.sidecars import read_facts
from ...subtitles import LARGEST_BYTES, read_subtitles
from ...system import check_inside, read_inside, shown

TEXT_FORMATS = {".srt": "subrip", ".ass": "ass", ".ssa": "ass", ".vtt": "webvtt"}
PICTURES = frozenset({".jpg", ".jpeg", ".png", ".webp"})
FOLDER_PICTURES = ("cover", "folder", "poster", "front")
CHAPTER_ENDINGS = (".chapters.txt", ".chapters.xml", ".chapters.json", ".chapters.vtt", ".cue", ".ffmetadata")
SERIES_FILE, DISC_FILE = "tvshow.nfo", "movie"
FACT_ENDINGS = (".info.json", ".json", ".xml", ".nfo")
LARGEST_FACTS = 1 << 20
"""Bytes of a document about a work."""
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


def chapters_beside(media: Path, siblings: Iterable[Path]) -> tuple[Path, ChapterList] | None:
    """The list of chapters named after the media file (``name.chapters.txt``, ``name.cue``), and where it lies.

    Raises ``BadChapters`` where there is one that can't be read.
    """
    wanted = {f"{media.stem}{ending}".casefold() for ending in CHAPTER_ENDINGS}
    for path in sorted(siblings):
        if path.name.casefold() in wanted:
            try:
                return path, read_list(read_inside(path, LARGEST_LIST).decode("utf-8-sig"))
            except (SourceError, OSError, UnicodeDecodeError) as error:
                raise BadChapters("It is no text in UTF-8.", advice="") from error
    return None


def facts_beside(media: Path, siblings: Iterable[Path]) -> tuple[Beside, ...]:
    """What documents about the work, and about its series, say; the surest last. What is no such document is passed
    over.
    """
    here = {path.name.casefold(): path for path in sorted(siblings)}
    above = media.parent.parent / SERIES_FILE
    own = (here.get(f"{media.stem}{ending}".casefold()) for ending in FACT_ENDINGS)
    return _facts((above if above.is_file() else None, here.get(SERIES_FILE), *own))


def facts_of_disc(disc: Path) -> tuple[Beside, ...]:
    """The same for a disc: in its folder under its name or ``movie``, or beside an image; the surest last."""
    if disc.is_file():
        return facts_beside(disc, disc.parent.iterdir())
    here = {path.name.casefold(): path for path in sorted(disc.iterdir())}
    names = (f"{stem}{ending}".casefold() for stem in (DISC_FILE, disc.name) for ending in FACT_ENDINGS)
    return _facts((here.get(SERIES_FILE), *map(here.get, names)))


def artwork_of_disc(disc: Path) -> Artwork | None:
    """The picture in a disc's folder under its name or as its cover; beside an image only under its name."""
    if disc.is_file():
        return artwork_beside(disc, [path for path in disc.parent.iterdir() if path.stem == disc.stem])
    return artwork_beside(disc, list(disc.iterdir()))


def _facts(documents: Iterable[Path | None]) -> tuple[Beside, ...]:
    found = []
    for path in documents:
        if path is not None:
            with contextlib.suppress(SourceError, OSError, UnicodeDecodeError):
                if tags := read_facts(read_inside(path, LARGEST_FACTS).decode("utf-8-sig")):
                    found.append(Beside(name=shown(path.name), tags=tags))
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
