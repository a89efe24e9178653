"""Tags of MP4: the item list under which players look (``ilst``), through mutagen."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from mutagen.mp4 import MP4, MP4Cover

from ..media import ContentKind, Tags
from ..media.tags import LONGEST_TAG, dated, shortened

MOVIE, TV_SHOW, MUSIC, SHORT = 9, 10, 1, 6
"""Kinds of content in the ``stik`` atom."""
KINDS = {
    ContentKind.FILM: MOVIE,
    ContentKind.EPISODE: TV_SHOW,
    ContentKind.EXTRA: SHORT,
    ContentKind.SOUND: MUSIC,
}
TEXTS = {
    "\xa9nam": "shown_title",
    "tvsh": "show",
    "\xa9gen": "genre",
    "\xa9dir": "director",
    "\xa9prf": "cast",
    "\xa9ART": "artist",
    "\xa9cmt": "comment",
}
NUMBERS = {"tvsn": "season", "tves": "episode"}
DATE, PART = "\xa9day", "trkn"
OWN = frozenset({*TEXTS, *NUMBERS, DATE, PART, "stik", "desc", "ldes", "tven"})


def write_mp4(path: Path, tags: Tags, cover: bytes | None) -> None:
    """Raises ``mutagen.MutagenError`` or ``OSError``."""
    file: Any = MP4(path)  # type: ignore[no-untyped-call]
    if file.tags is None:
        file.add_tags()
    kept = file.tags
    date = (kept.get(DATE) or [""])[0]
    # a piece of music has a number among others there, which is no part of a work
    for atom in OWN if tags.kind is not ContentKind.SOUND else OWN - {PART}:
        kept.pop(atom, None)
    for atom, name in TEXTS.items():
        if text := getattr(tags, name):
            kept[atom] = [text]
    for atom, name in NUMBERS.items():
        if (number := getattr(tags, name)) is not None:
            kept[atom] = [number]
    kept["stik"] = [KINDS[tags.kind]]
    if tags.year is not None:
        kept[DATE] = [dated(tags.year, date)]
    if tags.numbered:
        kept["tven"] = [tags.numbered]
    if tags.part is not None:
        kept[PART] = [(tags.part, 0)]
    if tags.description:
        kept["desc"] = [shortened(tags.description, LONGEST_TAG)]
        kept["ldes"] = [tags.description]
    if cover is not None:
        kept["covr"] = [MP4Cover(cover, MP4Cover.FORMAT_JPEG)] if cover else []  # type: ignore[no-untyped-call]
    # what was kept free stays free: nothing behind it need be moved
    file.save(padding=lambda info: max(0, info.padding))
