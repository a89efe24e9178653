"""What is said of a work in a document beside its file: XML as media libraries keep it, or JSON. Pure."""

from __future__ import annotations

import json
import re
from collections.abc import Callable, Iterable, Mapping
from typing import Any
from xml.etree.ElementTree import Element, ParseError

from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring

from ..media import ContentKind
from ..media.tags import LONG_TEXTS, LONGEST_TAG, LONGEST_TEXT, MOST_NUMBER, NUMBERS, shortened

KINDS = {
    "movie": ContentKind.FILM,
    "episodedetails": ContentKind.EPISODE,
    "musicvideo": ContentKind.SOUND,
}
SERIES = "tvshow"
"""The root of a document about a whole series."""
ELEMENTS: Mapping[str, tuple[str, ...]] = {
    "title": ("title",),
    "show": ("showtitle",),
    "season": ("season",),
    "episode": ("episode",),
    "year": ("year", "premiered", "aired", "releasedate"),
    "edition": ("edition",),
    "genre": ("genre",),
    "director": ("director",),
    "cast": ("actor",),
    "artist": ("artist",),
    "description": ("plot", "outline"),
}
KEYS: Mapping[str, tuple[str, ...]] = {
    "kind": ("kind",),
    "title": ("title", "name"),
    "show": ("show", "series"),
    "season": ("season", "season_number"),
    "episode": ("episode", "episode_number"),
    "part": ("part",),
    "year": ("year", "release_year", "date", "release_date"),
    "edition": ("edition",),
    "genre": ("genre", "genres"),
    "director": ("director", "directors"),
    "cast": ("cast", "actors"),
    "artist": ("artist", "artists"),
    "description": ("description", "plot", "summary"),
    "comment": ("comment",),
}
"""Tags by the elements or keys that hold them; the first that is there counts."""


def read_facts(text: str) -> dict[str, str | int] | None:
    """The tags that a document tells; ``None`` where it is none that Rheon reads."""
    stripped = text.removeprefix("\ufeff").lstrip()
    if stripped.startswith("<"):
        return _of_xml(stripped)
    return _of_json(stripped) if stripped.startswith("{") else None


def _of_xml(text: str) -> dict[str, str | int] | None:
    try:
        root = fromstring(text.encode())
    except (ParseError, DefusedXmlException, ValueError):
        return None
    if root.tag == SERIES:
        said = _told(ELEMENTS, lambda name: _texts(root, name))
        return {tag: said[key] for tag, key in (("show", "title"), ("genre", "genre"), ("cast", "cast")) if key in said}
    if root.tag not in KINDS:
        return None
    return {"kind": KINDS[root.tag].value, **_told(ELEMENTS, lambda name: _texts(root, name))}


def _texts(root: Element, name: str) -> list[str]:
    """What elements of a name hold; of people their names."""
    return [(one.findtext("name") if len(one) else one.text) or "" for one in root.findall(name)]


def _of_json(text: str) -> dict[str, str | int] | None:
    try:
        said = json.loads(text)
    except (ValueError, RecursionError):
        return None
    known = said if isinstance(said, dict) else {}
    found = _told(KEYS, lambda key: _plain(known.get(key)))
    if found.get("kind") not in (None, *(kind.value for kind in ContentKind)):
        del found["kind"]
    return found or None


def _plain(said: Any) -> list[str]:
    """Texts of a value that is one, a number, or a list of them or of objects with a name."""
    if isinstance(said, dict):
        said = said.get("name")
    if isinstance(said, list):
        return [text for one in said[:200] if not isinstance(one, list) for text in _plain(one)]
    return [str(said)] if isinstance(said, str | int | float) and not isinstance(said, bool) else []


def _told(names: Mapping[str, tuple[str, ...]], texts: Callable[[str], list[str]]) -> dict[str, str | int]:
    found: dict[str, str | int] = {}
    for tag, places in names.items():
        said = next((kept for place in places if (kept := _kept(texts(place)))), [])
        value = _number(tag, said[0]) if said and tag in NUMBERS else _line(tag, said)
        if value not in (None, ""):
            found[tag] = value
    return found


def _kept(texts: Iterable[str]) -> list[str]:
    return list(dict.fromkeys(text.strip() for text in texts if text.strip()))


def _number(tag: str, said: str) -> int | None:
    """A number, or the year of a date; ``None`` where it is none."""
    found = re.match(r"\d{4}(?=\D|\d{4}$|$)" if tag == "year" else r"\d{1,4}$", said)
    return int(found[0]) if found and int(found[0]) <= MOST_NUMBER else None


def _line(tag: str, said: list[str]) -> str:
    """In as many bytes as the tag may have, cut at a word where it is longer."""
    if tag in LONG_TEXTS:
        return shortened(said[0], LONGEST_TEXT) if said else ""
    return shortened(", ".join(" ".join(text.split()) for text in said), LONGEST_TAG)
