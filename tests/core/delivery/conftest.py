"""Sources that several tests of whole conversions read: loose files, made when first asked for, and discs."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

import pytest
from tests.instruments.authored import Pictures
from tests.instruments.discs import NTSC, PAL, Chain, Vob, author_clips, author_dvd, author_programmes
from tests.instruments.kept import once
from tests.instruments.sources import BY_NAME

from rheon.core.media import Title
from rheon.core.sources import read_source


@pytest.fixture(scope="session")
def sources() -> Callable[[str], Path]:
    return lambda name: once(name, lambda path: BY_NAME[name].make(path.parent))


@pytest.fixture(scope="session")
def programmes() -> Path:
    return once("PROGRAMMES", author_programmes)


@pytest.fixture(scope="session")
def clips() -> Path:
    return once("CLIPS", author_clips)


@pytest.fixture(scope="session")
def discs(programmes: Path, clips: Path) -> dict[str, tuple[Title, Fraction, int]]:
    """Titles by the kind of their disc, with the rate at which their pictures are counted and how many there are."""
    vob = Vob(pictures=Pictures(count=360, rate=NTSC, size=(720, 480)))
    ntsc = once("NTSC", lambda path: author_dvd([vob], [Chain(parts=((0, 0, 0),))], path))
    return {
        "pal": (read_source(programmes).titles[0], PAL, 600),
        "ntsc": (read_source(ntsc).titles[0], NTSC, 360),
        "clips": (read_source(clips).titles[0], Fraction(24), 396),
    }
