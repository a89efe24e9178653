"""Chapters of Matroska as XML."""

from __future__ import annotations

from xml.etree.ElementTree import Element, ParseError

from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring

from ..errors import BadChapters
from .entries import Listed, listed
from .times import clock_s


def matroska(text: str) -> list[Listed] | None:
    """The chapters that are shown, of the edition that is played (RFC 9559, 5.1.7). Raises ``BadChapters``."""
    if not text.lstrip().startswith("<"):
        return None
    try:
        root = fromstring(text.lstrip().encode())
    except (ParseError, DefusedXmlException, ValueError) as error:
        raise BadChapters("This XML can't be read: {said}.", said=str(error)[:120]) from None
    if root.tag != "Chapters":
        raise BadChapters("This XML is no list of chapters: it is of <{tag}>.", tag=str(root.tag)[:60])
    editions = root.findall("EditionEntry")
    if not editions:
        return []
    played = next((one for one in editions if _says(one, "EditionFlagDefault") == "1"), editions[0])
    return [_chapter(atom) for atom in played.findall("ChapterAtom") if _says(atom, "ChapterFlagHidden") != "1"]


def _chapter(atom: Element) -> Listed:
    start = _says(atom, "ChapterTimeStart")
    if (start_s := clock_s(start)) is None:
        raise BadChapters("“{said}” is no moment; one is 0:12:30.5.", said=start[:60])
    names = [_says(shown, "ChapterString") for shown in atom.findall("ChapterDisplay")]
    return listed(next((name for name in names if name), ""), start_s)


def _says(element: Element, name: str) -> str:
    return (element.findtext(name) or "").strip()
