"""Files made by a graphics chip, which stands in here: they keep the rules, and where it fails software makes them."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from pathlib import Path

import pytest
from tests.instruments.hardware import Chip, chip_at
from tests.instruments.readback import see
from tests.thorough import thorough

from rheon.core.delivery import Order, convert
from rheon.core.engine import probe
from rheon.core.formats import HARDWARE
from rheon.core.media import HardwareEncoder, Machine, Title
from rheon.core.planning import Plan, PlanRequest, plan, read_pins
from rheon.core.sources import read_source
from rheon.demo.models import device


@pytest.fixture
def chip(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Chip:
    made = chip_at(tmp_path / "machine", "dri/renderD128")
    monkeypatch.setenv("PATH", made.path)
    return made


def planned(title: Title, chip: Chip, **pins: str) -> Plan:
    blocks, node = HARDWARE["vaapi"].blocks, str(chip.dev / "dri/renderD128")
    encoders = tuple(
        HardwareEncoder(name=made.name, family="vaapi", codec=codec, device=node, pixels_per_s=1e8)
        for codec, made in blocks.items()
    )
    said = {key.replace("_", ".", 1): value for key, value in pins.items()}
    machine = Machine(encoders=encoders, prefers_speed=True)
    request = PlanRequest(
        title=title, devices=(device("gannet-43"),), name="made", pins=read_pins(said), machine=machine,
    )  # fmt: skip
    return plan(request)


def made_of(title: Title, made: Plan, folder: Path) -> tuple[Path, list[Plan]]:
    folder.mkdir()
    instead: list[Plan] = []
    order = Order(title=title, plan=made, devices=[device("gannet-43")], folder=folder, token=uuid.uuid4().hex)
    return convert(order, on_instead=lambda plan, error: instead.append(plan)).path, instead


@pytest.mark.parametrize(
    ("pins", "count"),
    [thorough({"picture_codec": "h264"}, 288), ({"picture_codec": "hevc", "range_keep": "1-3,5-7.2"}, 101)],
)
def test_a_file_is_made_by_it_whole_or_of_pieces(
    pins: dict[str, str], count: int, chip: Chip, sources: Callable[[str], Path], tmp_path: Path
) -> None:
    title = read_source(sources("film.mkv")).titles[0]
    made = planned(title, chip, picture_size="240", **pins)
    assert made.settings and made.settings.video and made.settings.video.device
    tried = len(chip.asked())
    file, instead = made_of(title, made, tmp_path / "made")
    assert not instead and len(chip.asked()) == tried + 1
    assert "[given]" in chip.asked()[-1] and "hwupload" in chip.asked()[-1]
    assert len(see(file).numbers) == count
    video = probe(str(file)).video
    assert video and video.codec == pins["picture_codec"] and video.height == 240


@pytest.mark.parametrize("how", [thorough("start"), "middle"])
def test_where_it_fails_software_makes_the_file_and_says_so(
    how: str, chip: Chip, sources: Callable[[str], Path], tmp_path: Path
) -> None:
    title = read_source(sources("film.mkv")).titles[0]
    made = planned(title, chip, picture_codec="h264")
    chip.fail(how)
    file, instead = made_of(title, made, tmp_path / "made")
    reasons = [{one.key: one.reason.code for one in plan.decisions}["picture.encoder"] for plan in instead]
    assert reasons == ["encoder_failed"]
    assert list(see(file).numbers) == list(range(288))
    assert [found.name for found in file.parent.iterdir()] == [file.name]
