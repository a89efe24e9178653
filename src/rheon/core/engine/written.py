"""What is written in a file for people, under one name for each thing, whatever its container calls it.

Source: names as ffprobe gives them for MP4's item list, ID3v2.4, Vorbis comments, and Matroska's tags with the name of
their target before them (RFC 9559, 5.1.8; the official list of tags).
"""

from __future__ import annotations

from collections.abc import Mapping

from ..media import ContentKind

NAMES: Mapping[str, tuple[str, ...]] = {
    "title": ("title",),
    "show": ("show", "collection/title"),
    "season": ("season_number", "season", "season/part_number"),
    "episode": ("episode_sort", "episode", "episode/part_number"),
    "part": ("part", "movie/part_number"),
    "date": ("date", "date_released"),
    "genre": ("genre",),
    "director": ("director",),
    "cast": ("performers", "actor"),
    "artist": ("artist",),
    "album": ("album",),
    "album_artist": ("album_artist",),
    "track": ("track",),
    "comment": ("comment",),
    "description": ("synopsis", "description"),
}
OF_THE_WORK = ("episode", "movie", "track")
"""Targets of Matroska that are the work itself."""
KINDS = {
    "9": ContentKind.FILM, "10": ContentKind.EPISODE, "1": ContentKind.SOUND, "6": ContentKind.EXTRA,
    "film": ContentKind.FILM, "movie": ContentKind.FILM, "episode": ContentKind.EPISODE,
    "music": ContentKind.SOUND, "extra": ContentKind.EXTRA,
}  # fmt: skip
"""Kinds of content, by MP4's ``stik`` and by Matroska's ``CONTENT_TYPE``."""


def written_tags(said: Mapping[str, str]) -> dict[str, str]:
    """Tags under our names, from those of a file in small letters; of a kind only one that Rheon knows."""
    found = {name: text for name, called in NAMES.items() if (text := _first(said, called))}
    kind = KINDS.get(_first(said, ("media_type", "content_type")).casefold())
    return found if kind is None else {"kind": kind.value, **found}


def _first(said: Mapping[str, str], names: tuple[str, ...]) -> str:
    places = (place for name in names for place in (name, *(f"{target}/{name}" for target in OF_THE_WORK)))
    return next((text for place in places if (text := said.get(place))), "")
