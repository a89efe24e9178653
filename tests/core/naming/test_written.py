"""What Rheon writes into a file is what it proposes when that file comes to the Shelf."""

from __future__ import annotations

import subprocess
from dataclasses import replace
from pathlib import Path

import pytest

from rheon.core.media import ContentKind, Tags
from rheon.core.naming.proposing import propose
from rheon.core.sources import read_source
from rheon.core.tagging import write_tags

FILM = Tags(
    title="Marram Nights", year=1994, edition="director's cut", part=2, genre="Drama, Thriller", director="Ada Fenwick",
    cast="Jo Tern, Mira Sedge", description="Three nights on the marsh. " * 60, comment="From the circle's shelf.",
)  # fmt: skip
EPISODE = Tags(
    kind=ContentKind.EPISODE, title="Slack Water", show="Tide Watch", season=2, episode=11, year=2011, cast="Ýr Þór",
    director="水野 葦",
)  # fmt: skip
SONG = Tags(kind=ContentKind.SOUND, title="Neaps", artist="The Sluices", year=1987, genre="Folk")
VIDEO = ["-f", "lavfi", "-i", "testsrc=s=64x48:d=1"]
SOUND = ["-f", "lavfi", "-i", "sine=d=1"]


def proposed(folder: Path, ending: str, container: str, tags: Tags) -> Tags:
    """What a file with these tags, and a name that says something else, seems to be."""
    path = folder / f"Something else.{ending}"
    streams = SOUND if ending in ("mp3", "flac", "opus", "m4a") else VIDEO
    subprocess.run(["ffmpeg", "-v", "error", "-y", *streams, str(path)], check=True)
    write_tags(path, container, tags)
    return propose(read_source(path))[1].tags


@pytest.mark.parametrize(("ending", "container"), [("mp4", "mp4"), ("mkv", "matroska"), ("webm", "webm")])
@pytest.mark.parametrize(
    "tags",
    [
        FILM,
        EPISODE,
        replace(EPISODE, season=0, episode=0),
        Tags(kind=ContentKind.EXTRA, title="The boats", show="Tide Watch"),
        Tags(title="A night (in the marsh)", edition="restored"),
        Tags(title="ליל החוף", genre="דרמה"),
    ],
)
def test_a_film_says_all_of_what_was_written(tmp_path: Path, ending: str, container: str, tags: Tags) -> None:
    # a part has a place of its own in Matroska, and one in the title everywhere
    assert proposed(tmp_path, ending, container, tags) == replace(tags, description=tags.description.strip())


@pytest.mark.parametrize(("ending", "container"), [("flac", "flac"), ("opus", "ogg"), ("mp3", "mp3"), ("m4a", "mp4")])
def test_a_song_does_too(tmp_path: Path, ending: str, container: str) -> None:
    assert proposed(tmp_path, ending, container, SONG) == SONG
