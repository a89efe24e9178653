"""The demo is the same every time, and complete."""

from __future__ import annotations

import hashlib
import json
from dataclasses import replace
from pathlib import Path

from rheon.core.devices import catalogue
from rheon.core.sources.images.disc_files import open_image
from rheon.demo import scenario
from rheon.demo.build import STEREO, build
from rheon.demo.discs import NTSC_FILM, TitleSet, add_subpictures, author_disc, make_image, make_stream
from rheon.demo.models import model_file, models


def tiny_disc(work: Path) -> Path:
    work.mkdir()
    programme = replace(scenario.EXTRAS[2], scene_s=2.0)
    stream = make_stream(programme, NTSC_FILM, STEREO, work)
    stream = add_subpictures(stream, [scenario.Line(start_s=0.5, end_s=1.5, text="Light the lamp.")], 0, work)
    disc = work / "disc"
    author_disc([TitleSet(standard=NTSC_FILM, tracks=STEREO, subtitles=("en",), titles=[[stream]])], disc)
    make_image(disc, "TINY", work / "tiny.iso")
    return work


def digests(folder: Path) -> dict[str, str]:
    """Every file of the disc folder; the image's own copies of them must be the same."""
    paths = {path.name: path for path in folder.glob("disc/VIDEO_TS/*")}
    image = open_image(folder / "tiny.iso")
    assert {name: image.read(name) for name in paths} == {name: path.read_bytes() for name, path in paths.items()}
    return {name: hashlib.sha256(path.read_bytes()).hexdigest() for name, path in paths.items()}


def test_a_disc_is_authored_the_same_twice(tmp_path: Path) -> None:
    one, other = (digests(tiny_disc(tmp_path / name)) for name in ("one", "other"))
    assert len(one) == 5
    assert one == other


def test_current_media_are_left_alone(media: Path) -> None:
    before = (media / ".built").stat().st_mtime_ns
    assert build(media, say=lambda text: None) is False
    assert (media / ".built").stat().st_mtime_ns == before


def test_the_household_s_devices_are_models_of_the_scenario_or_kinds_of_the_catalogue() -> None:
    household = json.loads((Path(scenario.__file__).parent / "household.json").read_text())
    files = {f"models/{name}.json" for name in models()}
    assert {entry["profile"] for entry in household["devices"]} <= set(catalogue()) | files
    assert all(model_file(name).is_file() for name in models())
    assert not set(models()) & set(catalogue())
    assert len(household["devices"]) >= 4
