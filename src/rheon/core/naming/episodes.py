"""What a file's name says of a series: season, episode and what is left as its title. Pure."""

from __future__ import annotations

import re
from dataclasses import dataclass

FORMS = tuple(
    re.compile(pattern, re.IGNORECASE)
    for pattern in (
        r"\bs(?:eason)?[ ._-]*(?P<season>\d{1,2})[ ._,-]*e(?:p(?:isode)?)?[ ._-]*(?P<episode>\d{1,3})\b",
        r"\b(?P<season>\d{1,2})x(?P<episode>\d{2,3})\b",
        r"\bseries[ ._-]*(?P<season>\d{1,2})[ ._,-]*(?:episode|part)[ ._-]*(?P<episode>\d{1,3})\b",
        r"\b(?:episode|ep|e)[ ._-]*(?P<episode>\d{1,3})\b",
        r"\b(?P<part>part|chapter)[ ._-]*(?P<episode>\d{1,3})\b",
    )
)
SEASON = re.compile(
    r"(?:^|(?<=[ ,(\[–-]))(?:s(?=\d)|(?:season|series|staffel|saison|temporada|stagione)[ .]*)(?P<season>\d{1,2})"
    r"(?=$|[ ,)\]–-])",
    re.IGNORECASE,
)
SURE_MARKS = (
    r"(?:dvd|bd|br|web)[ -]?rip|web[ -]?dl|hdtv|blu[ -]?ray|dvd[59r]?|remux|ntsc|\d{3,4}[pi]|4k|uhd|\d{1,2}x[39](?!\d)"
    r"|[xh] ?26[45](?:-\w+)?|hevc|avc|mpeg-?2|aac|e?ac-?3|dts(?:-?hd)?|truehd|flac|hdr(?:10)?|10 ?bit|repack|widescreen"
)
"""What is said of a copy and never of a work."""
TECHNICAL = re.compile(
    rf"[\[(](?:[^\])]*\b)?(?:{SURE_MARKS})\b[^\])]*[\])]|(?<=[ (\[])(?:{SURE_MARKS})(?=$|[ )\]])", re.IGNORECASE
)


@dataclass(frozen=True, slots=True, kw_only=True)
class EpisodeName:
    """``season`` is ``None`` where the name has only a running number; ``title`` is what follows the number, and
    ``is_part`` says that it is called the number of a part.
    """

    series: str
    season: int | None
    episode: int
    title: str
    is_part: bool = False


def spaced(name: str) -> str:
    """A name with spaces where programs put dots and underscores."""
    text = name if " " in name.strip() else name.replace(".", " ")
    return re.sub(r"\s+", " ", text.replace("_", " ")).strip()


def tidy_name(stem: str) -> str:
    """A file's stem as a person would write it: dots and underscores as spaces, technical marks gone."""
    return re.sub(r"\s+", " ", TECHNICAL.sub(" ", spaced(stem))).strip(" -–.") or stem


def episode_name(stem: str, folder: str = "") -> EpisodeName | None:
    """The season and episode in a file's name; the season may stand in its folder's."""
    text = tidy_name(stem)
    for form in FORMS:
        if not (found := form.search(text)):
            continue
        said = found.groupdict()
        above = SEASON.search(spaced(folder))
        season = said.get("season") or (above["season"] if above else None)
        return EpisodeName(
            series=text[: found.start()].strip(" -–,.(["),
            season=int(season) if season else None,
            episode=int(found["episode"]),
            title=text[found.end() :].strip(" -–,.)]"),
            is_part="part" in said,
        )
    return None


def natural_key(name: str) -> tuple[tuple[int, int, str], ...]:
    """Sorts as people do: ``Part 2`` before ``Part 10``, capitals like small letters."""
    return tuple(
        (0, int(piece), "") if piece.isdigit() else (1, 0, piece)
        for piece in re.split(r"(\d+)", name.casefold())
        if piece
    )
