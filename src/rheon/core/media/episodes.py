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
        r"\b(?:episode|ep|part|chapter|e)[ ._-]*(?P<episode>\d{1,3})\b",
    )
)
FOLDER_SEASON = re.compile(r"\b(?:season|series)[ ._-]*(?P<season>\d{1,2})\b", re.IGNORECASE)
TECHNICAL = re.compile(
    r"[\[(](?:\d{3,4}[pi]|[^\])]*(?:x264|x265|h26[45]|hevc|dvd|bluray|web)[^\])]*)[\])]"
    r"|\b(?:\d{3,4}[pi]|x26[45]|h26[45])\b",
    re.IGNORECASE,
)


@dataclass(frozen=True, slots=True, kw_only=True)
class EpisodeName:
    """``season`` is ``None`` where the name has only a running number; ``title`` is what follows the number."""

    series: str
    season: int | None
    episode: int
    title: str


def tidy_name(stem: str) -> str:
    """A file's stem as a person would write it: dots and underscores as spaces, technical marks gone."""
    text = stem if " " in stem.strip() else stem.replace(".", " ")
    text = TECHNICAL.sub(" ", text)
    return re.sub(r"\s+", " ", text.replace("_", " ")).strip(" -–.") or stem


def episode_name(stem: str, folder: str = "") -> EpisodeName | None:
    """The season and episode in a file's name; the season may stand in its folder's."""
    text = tidy_name(stem)
    for form in FORMS:
        if not (found := form.search(text)):
            continue
        season = int(found["season"]) if "season" in form.groupindex else None
        if season is None and (above := FOLDER_SEASON.search(folder)):
            season = int(above["season"])
        return EpisodeName(
            series=text[: found.start()].strip(" -–,."),
            season=season,
            episode=int(found["episode"]),
            title=text[found.end() :].strip(" -–,."),
        )
    return None


def natural_key(name: str) -> tuple[tuple[int, int, str], ...]:
    """Sorts as people do: ``Part 2`` before ``Part 10``, capitals like small letters."""
    return tuple(
        (0, int(piece), "") if piece.isdigit() else (1, 0, piece)
        for piece in re.split(r"(\d+)", name.casefold())
        if piece
    )
