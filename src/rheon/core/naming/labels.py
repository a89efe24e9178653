"""What the name of a disc, folder or file says: title, year, season, episode, part, edition. Pure.

A name is read from its end, since what is no title stands there, or in brackets. What may as well be a word of the
title is taken for one: a title with a mark behind it is mended in a moment, one that lacks a word is not noticed.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, fields

from .episodes import SEASON, SURE_MARKS, TECHNICAL, episode_name, spaced
from .names import display_name

OLDEST_YEAR, NEWEST_YEAR = 1888, 2030
"""No moving pictures are older; a later number that stands in no brackets is one of a title's."""
LEAST_WORDS = 2
"""So many stand before a mark that could be a word of the title."""
COUNTED = {"one": 1, "two": 2, "three": 3, "four": 4}
EDITIONS = {
    "director's cut": r"(?:the )?director'?s cut",
    "extended": r"extended(?: (?:cut|edition|version))?",
    "uncut": r"(?:uncut|unrated)(?: (?:cut|edition|version))?",
    "theatrical": r"theatrical(?: (?:cut|edition|version))?",
    "restored": r"(?:digitally )?(?:restored|remastered)(?: version)?",
    "special edition": r"special edition",
    "anniversary edition": r"(?:\d+th )?anniversary(?: edition)?",
}
EDITION = "|".join(EDITIONS.values())
PERHAPS = (
    r"pal|ws|fs|full ?screen|multi|dual|subbed|dubbed|proper|complete|feature|bonus|main|16 9|4 3|r[0-6]|f\d|t\d{2}"
    r"|title ?\d+"
)
LANGUAGE = r"english|german|deutsch|french|francais|français|spanish|español|italian|italiano"
CODE = r"eng|ger|deu|fra|fre|spa|ita|jpn|nld"
MEANINGLESS = re.compile(
    r"(?:dvd(?:[ _-]?video|volume|rom)?|video[ _]?ts|audio[ _]?ts|bdmv|blu-?ray(?: disc)?|bd|untitled|unnamed|no ?name"
    r"|new(?: disc| volume)?|my ?(?:dvd|disc)|disc|disk|cd|movie|film|video|title|image|cdrom|volume|backup|rip"
    r"|dvd ?rip|logical volume id)[ _-]*(?:\d{0,4}|one|two|three|four)|\d{0,2}",
    re.IGNORECASE,
)


@dataclass(frozen=True, slots=True, kw_only=True)
class NameParts:
    """What a name says. ``title`` is what is left of it: the show's where there is a season or an episode, and then
    ``episode_title`` is what follows their number.
    """

    title: str = ""
    episode_title: str = ""
    year: int | None = None
    season: int | None = None
    episode: int | None = None
    disc: int | None = None
    part: int | None = None
    edition: str = ""

    @property
    def told(self) -> dict[str, str | int]:
        """What it does say, by its name."""
        said = {one.name: getattr(self, one.name) for one in fields(self)}
        return {name: value for name, value in said.items() if value not in ("", None)}


def is_meaningless(name: str) -> bool:
    """Whether a name is one that programs give to any disc or folder."""
    return MEANINGLESS.fullmatch(name.strip()) is not None


def read_name(name: str) -> NameParts:
    """Of a disc's label, a folder's or a file's name without its ending."""
    shouted = name == name.upper()
    text, behind = _cut_at_marks(spaced(name))
    counted = episode_name(text)
    if counted is not None and not counted.is_part and (counted.season is not None or counted.series or counted.title):
        title, said = _from_its_end(counted.series, shouted=shouted, technical=bool(behind))
        numbers = {"season": counted.season, "episode": counted.episode}
        said |= {key: number for key, number in numbers.items() if number is not None}
        return _parts(said, title=_written(title, shouted), episode_title=_written(_trimmed(counted.title), shouted))
    title, said = _from_its_end(text, shouted=shouted, technical=bool(behind))
    _, more = _from_its_end(f"x x {behind}", shouted=shouted, technical=True)
    return _parts({**more, **said}, title=_written(title, shouted))


def _parts(said: Mapping[str, str | int], **titles: str) -> NameParts:
    return NameParts(**{**said, **titles})  # type: ignore[arg-type]


def _cut_at_marks(text: str) -> tuple[str, str]:
    """What stands before the first mark of a copy, and what behind it, which is for programs."""
    text = re.sub(rf"[\[(](?:{SURE_MARKS})[\])]", lambda found: f" {found[0][1:-1]} ", text, flags=re.IGNORECASE)
    found = TECHNICAL.search(text)
    if found is None or not _trimmed(text[: found.start()]):
        return _trimmed(text), ""
    return _trimmed(text[: found.start()]), _trimmed(text[found.start() :])


def _from_its_end(text: str, *, shouted: bool, technical: bool) -> tuple[str, dict[str, str | int]]:
    """The title, and what stood in brackets and behind it; ``technical``: there are marks of a copy too."""
    said: dict[str, str | int] = {}
    for brackets in re.findall(r"[(\[]([^()\[\]]*)[)\]]", text):
        kind, value = _bracketed(brackets)
        if kind:
            text = _trimmed(re.sub(r"[(\[]" + re.escape(brackets) + r"[)\]]", " ", text))
            said |= {kind: value} if value else {}
    while (found := _at_end(text, shouted=shouted, technical=technical)) and found[1] not in said:
        text, kind, value = found
        said |= {kind: value} if value else {}
    return text, said


def _bracketed(text: str) -> tuple[str, str | int]:
    """What brackets hold, where that is no part of a title."""
    plain = text.strip()
    if re.fullmatch(r"\d{4}", plain) and int(plain) >= OLDEST_YEAR:
        return "year", int(plain)
    if edition := edition_in(plain):
        return "edition", edition
    if found := SEASON.fullmatch(plain):
        return "season", int(found["season"])
    if found := re.fullmatch(r"(?:dis[ck]|dvd|cd|bd) ?(\d{1,2})", plain, re.IGNORECASE):
        return "disc", int(found[1])
    known = re.fullmatch(rf"(?:{LANGUAGE}|{CODE}|{PERHAPS}|[a-z]{{2}})", plain, re.IGNORECASE)
    return ("mark" if known or not plain else ""), ""


def _at_end(text: str, *, shouted: bool, technical: bool) -> tuple[str, str, str | int] | None:
    """A text without what stands at its end and is no part of the title, and what that is."""

    def ends(pattern: str) -> re.Match[str] | None:
        found = re.search(rf"^(?P<left>.*?)[ ,–-]+(?:{pattern})$", text, re.IGNORECASE)
        return found if found and _trimmed(found["left"]) else None

    if (found := ends(r"(?P<year>\d{4})")) and OLDEST_YEAR <= int(found["year"]) <= NEWEST_YEAR:
        return _trimmed(found["left"]), "year", int(found["year"])
    if found := ends(r"s(?P<season>\d{1,2}) ?d(?P<disc>\d{1,2})"):
        return f"{_trimmed(found['left'])} S{found['season']}", "disc", int(found["disc"])
    if found := ends(r"(?:d|dvd|dis[ck]|bd|cd) ?(?P<disc>\d{1,2})"):
        return _trimmed(found["left"]), "disc", int(found["disc"])
    if (found := SEASON.search(text)) and found.end() == len(text):
        return _trimmed(text[: found.start()]), "season", int(found["season"])
    if found := ends(r"(?:part|pt|teil) ?(?P<part>\d{1,2}|one|two|three|four)"):
        return _trimmed(found["left"]), "part", COUNTED.get(found["part"].lower()) or int(found["part"])
    if found := ends(rf"(?P<edition>{EDITION})"):
        alone = not re.search(r"(?:cut|edition|version)$", found["edition"], re.IGNORECASE)
        apart = text[len(found["left"]) :].lstrip()[:1] in "–-,"
        if apart or not alone or _enough(found["left"]):
            return _trimmed(found["left"]), "edition", edition_in(found["edition"])
    if (shouted or technical) and (found := ends(PERHAPS)) and _enough(found["left"]):
        return _trimmed(found["left"]), "mark", ""
    # in a label all words are capitals; elsewhere a word in capitals is none of the title's
    codes = CODE if shouted else f"{CODE}|{LANGUAGE}"
    if (
        (found := ends(codes))
        and text.rsplit(" ", maxsplit=1)[-1].isupper()
        and (_enough(found["left"]) or not shouted)
    ):
        return _trimmed(found["left"]), "mark", ""
    return None


def _enough(left: str) -> bool:
    return len(_trimmed(left).split(" ")) >= LEAST_WORDS


def edition_in(text: str) -> str:
    """The edition that a text is the name of; empty for any other."""
    return next((name for name, said in EDITIONS.items() if re.fullmatch(said, text, re.IGNORECASE)), "")


def _trimmed(text: str) -> str:
    text = re.sub(r"[(\[]\s*[)\]]", " ", text)
    return re.sub(r"\s+", " ", text).strip(" -–,.;([_")


def _written(text: str, shouted: bool) -> str:
    return display_name(text.upper() if shouted else text) if text else ""
