"""What is written in a file, as far as a person has written it, and in documents beside it. Pure."""

from __future__ import annotations

import re

from ..media import ContentKind, Proposed, Reason, Title
from ..media.tags import MOST_NUMBER
from .labels import OLDEST_YEAR, edition_in, is_meaningless
from .sureness import WRITTEN

TEXTS = ("show", "artist", "genre", "director", "cast", "comment", "description")
MARKED = re.compile(r"(?P<title>.+?) \((?P<mark>[^()]+)\)")
PART = re.compile(r"part (?P<part>\d{1,4})", re.IGNORECASE)


def written_in(title: Title, stem: str) -> dict[str, Proposed]:
    """Tags that a file of this name holds."""
    return {
        tag: Proposed(value=value, reason=Reason(code="tag_written"), sure=WRITTEN)
        for tag, value in tags_in(title, stem).items()
    }


def told_beside(title: Title) -> dict[str, Proposed]:
    """Tags that documents beside a title tell; what the surest says counts."""
    return {
        tag: Proposed(value=value, reason=Reason(code="tag_beside", values={"name": one.name}), sure=WRITTEN)
        for one in title.beside
        for tag, value in one.tags.items()
    }


def tags_in(title: Title, program_says: str | None = None) -> dict[str, str | int]:
    """Tags that a file holds; where ``program_says`` is given, without what says no more than that."""
    said = {key: text.strip() for key, text in title.tags.items()}
    found: dict[str, str | int] = {}
    if (kind := said.get("kind")) in (*ContentKind,):
        found["kind"] = str(kind)
    for tag in ("title", *TEXTS):
        text = said.get(tag, "")
        may_be = program_says is not None and tag in ("title", "comment") and title.video is not None
        by_a_program = may_be and _by_a_program(text, program_says or "")
        if text and not by_a_program:
            found |= _own_title(text) if tag == "title" else {tag: text}
    for tag in ("season", "episode", "part"):
        # some write the number of all behind it
        number = re.match(r"\d{1,4}(?=/|$)", said.get(tag, ""))
        if number and int(number[0]) <= MOST_NUMBER:
            found[tag] = int(number[0])
    if (year := re.match(r"\d{4}", said.get("date", ""))) and int(year[0]) >= OLDEST_YEAR:
        found["year"] = int(year[0])
    return found


def _own_title(text: str) -> dict[str, str | int]:
    """A title without the marks behind it, with which players tell editions and parts apart."""
    found: dict[str, str | int] = {}
    while marked := MARKED.fullmatch(text):
        part = PART.fullmatch(marked["mark"])
        known = edition_in(marked["mark"])
        if part and "part" not in found:
            found["part"] = int(part["part"])
        elif known and "edition" not in found:
            found["edition"] = known
        else:
            break
        text = marked["title"]
    return {"title": text, **found}


def _by_a_program(text: str, stem: str) -> bool:
    """Whether what is written says no more than the file's name, or where it was got."""
    plain = text.casefold()
    return plain == stem.casefold() or is_meaningless(text) or "://" in plain or "www." in plain or "_" in text
