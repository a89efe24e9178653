"""Documents and pictures that lie in a disc's folder, or beside its image, belong to what is on it."""

from __future__ import annotations

import json
import shutil
from pathlib import Path

import pytest
from PIL import Image

from rheon.core.media import Role, Tags
from rheon.core.media.tags import ContentKind
from rheon.core.naming.proposing import propose
from rheon.core.sources import read_source

FILM = "<movie><title>Marram Nights</title><year>1994</year><director>Ada Fenwick</director><plot>Fog.</plot></movie>"
SERIES = "<tvshow><title>Lantern Street</title><genre>Crime</genre><actor><name>Sam Ordway</name></actor></tvshow>"


@pytest.mark.parametrize("name", ["movie.nfo", "Marsh.xml", "marsh.json"])
def test_the_film_of_a_disc_is_what_a_document_in_its_folder_says(media: Path, tmp_path: Path, name: str) -> None:
    disc = tmp_path / "Marsh"
    shutil.copytree(media / "MARRAM_NIGHTS", disc)
    said = {"title": "Marram Nights", "year": 1994, "director": "Ada Fenwick", "plot": "Fog."}
    (disc / name).write_text(json.dumps(said) if name.endswith("json") else FILM)
    (disc / "other.nfo").write_text("no document of ours")
    Image.new("RGB", (700, 1050), "teal").save(disc / "poster.jpg")
    source = read_source(disc / "VIDEO_TS")
    found = propose(source)
    film = next(title for title in source.titles if title.role is Role.FEATURE)
    assert found[film.number].tags == Tags(title="Marram Nights", year=1994, director="Ada Fenwick", description="Fog.")
    assert found[film.number].found["year"].reason.values == {"name": name}
    assert film.artwork is not None and film.artwork.path == str(disc / "poster.jpg")
    others = [title for title in source.titles if title.role is not Role.FEATURE]
    assert others and not any(title.beside or title.artwork or found[title.number].tags.year for title in others)


def test_the_episodes_of_an_image_get_what_is_said_of_their_series(media: Path, tmp_path: Path) -> None:
    image = Path(shutil.copy(media / "LANTERN_STREET_S1.iso", tmp_path))
    (tmp_path / "LANTERN_STREET_S1.nfo").write_text(SERIES)
    Image.new("RGB", (700, 1050), "teal").save(tmp_path / "cover.jpg")
    found = propose(read_source(image))
    episodes = [one.tags for one in found.values() if one.tags.kind is ContentKind.EPISODE]
    assert [(tags.show, tags.season, tags.episode, tags.genre, tags.cast) for tags in episodes] == [
        ("Lantern Street", 1, number, "Crime", "Sam Ordway") for number in (1, 2, 3, 4)
    ]
    # that cover may be of anything else in the folder
    assert not any(title.artwork for title in read_source(image).titles)


def test_a_document_about_a_film_says_nothing_of_episodes(media: Path, tmp_path: Path) -> None:
    image = Path(shutil.copy(media / "LANTERN_STREET_S1.iso", tmp_path))
    (tmp_path / "LANTERN_STREET_S1.nfo").write_text(FILM)
    assert not any(one.tags.year or one.tags.director for one in propose(read_source(image)).values())
