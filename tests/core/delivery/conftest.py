"""Sources that several tests of whole conversions read: loose files, made when first asked for, and discs."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

import pytest
from tests.instruments.authored import Pictures
from tests.instruments.discs import NTSC, PAL, Chain, Vob, author_clips, author_dvd, author_programmes
from tests.instruments.sources import BY_NAME

from rheon.core.media import Title
from rheon.core.sources import read_source


@pytest.fixture(scope="session")
def sources(tmp_path_factory: pytest.TempPathFactory) -> Callable[[str], Path]:
    folder = tmp_path_factory.mktemp("authored")

    def made(name: str) -> Path:
        path = folder / name
        return path if path.exists() else BY_NAME[name].make(folder)

    return made


@pytest.fixture(scope="session")
def discs(tmp_path_factory: pytest.TempPathFactory) -> dict[str, tuple[Title, Fraction, int]]:
    """Titles by the kind of their disc, with the rate at which their pictures are counted and how many there are."""
    folder = tmp_path_factory.mktemp("discs")
    pal = read_source(author_programmes(folder / "PAL")).titles[0]
    ntsc = author_dvd(
        [Vob(pictures=Pictures(count=360, rate=NTSC, size=(720, 480)))], [Chain(parts=((0, 0, 0),))], folder / "NTSC"
    )
    clips = read_source(author_clips(folder / "CLIPS")).titles[0]
    return {
        "pal": (pal, PAL, 600),
        "ntsc": (read_source(ntsc).titles[0], NTSC, 360),
        "clips": (clips, Fraction(24), 396),
    }
