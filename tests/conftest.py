"""What all tests share: the demo's discs, whose truth is known from ``rheon.demo.scenario``."""

from __future__ import annotations

import os
import subprocess
from collections.abc import Iterator
from pathlib import Path

import pytest
from hypothesis import HealthCheck, settings

from rheon.core.media import Source
from rheon.core.sources import read_source
from rheon.core.system import set_fence
from rheon.demo.build import build

# nothing is timed in tests; on the build machine the same examples are drawn every time
settings.register_profile(
    "rheon",
    deadline=None,
    derandomize=bool(os.environ.get("CI")),
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.function_scoped_fixture],
)
settings.load_profile("rheon")

MEDIA = Path(__file__).parents[1] / "demo-data" / "media"


@pytest.fixture(autouse=True)
def unfenced() -> Iterator[None]:
    """Every test begins without a fence, whatever the one before it called in this process."""
    set_fence(None)
    yield
    set_fence(None)


@pytest.fixture(scope="session")
def media() -> Path:
    if not os.environ.get("MEDIA_AS_IT_IS"):  # code that was changed to see what notices it makes no media
        build(MEDIA)
    return MEDIA


@pytest.fixture(scope="session")
def film_disc(media: Path) -> Source:
    return read_source(media / "MARRAM_NIGHTS")


@pytest.fixture(scope="session")
def series_disc(media: Path) -> Source:
    return read_source(media / "LANTERN_STREET_S1.iso")


@pytest.fixture
def disc_copy(media: Path, tmp_path: Path) -> Path:
    """A copy of the film disc whose tables may be damaged; its data are links to the original."""
    folder = tmp_path / "DISC" / "VIDEO_TS"
    folder.mkdir(parents=True)
    for path in (media / "MARRAM_NIGHTS" / "VIDEO_TS").iterdir():
        if path.suffix == ".VOB":
            (folder / path.name).symlink_to(path)
        else:
            (folder / path.name).write_bytes(path.read_bytes())
    return folder.parent


@pytest.fixture
def small_disk(tmp_path: Path) -> Iterator[Path]:
    """A disk of 10 MB of its own, where this machine lets us mount one."""
    place = tmp_path / "disk"
    place.mkdir()
    mounted = subprocess.run(
        ["mount", "-t", "tmpfs", "-o", "size=10m", "tmpfs", str(place)], capture_output=True, check=False
    )
    if mounted.returncode:
        pytest.skip("mounting needs root")
    yield place
    subprocess.run(["umount", "-l", str(place)], check=True)
