"""Every codec in every container that holds it, really made, checked, and played by the browser where it can."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

import pytest
from playwright.sync_api import Browser
from tests.thorough import always, thorough

from rheon.core.delivery import Order, convert
from rheon.core.engine import probe
from rheon.core.formats import CONTAINERS, PLAYED_MOST
from rheon.core.media import Source, Title
from rheon.core.planning import PlanRequest, plan, read_pins
from rheon.core.sources import read_source
from rheon.demo.models import device

MATRIX = [
    (codec, name)
    for codec in PLAYED_MOST
    for name, container in CONTAINERS.items()
    if codec in container.video and container.audio
]
SHOWN = [("h264", "mp4"), ("hevc", "matroska"), ("vp9", "webm"), ("av1", "mp4"), ("mpeg2video", "mpeg_ps")]
OWN_DEVICES = (
    "av1-main-40",
    "mpeg2-main-high-ts",
    "wmv-asf",
    *map(thorough, ("vp9-level-41", "mpeg2-main-main", "most-compatible")),
)
BROWSER_PLAYS = {("h264", "mp4"), ("vp9", "mp4"), ("av1", "mp4"), ("vp9", "webm"), ("av1", "webm")}

PLAY = """
<video muted></video><script>
window.played = new Promise((done) => {
  const video = document.querySelector("video");
  video.onerror = () => done("error " + video.error.message);
  const look = () => video.getVideoPlaybackQuality().totalVideoFrames > 5 && video.currentTime > 0.3
    ? done("played " + video.videoWidth + "x" + video.videoHeight) : setTimeout(look, 50);
  video.src = FILE; video.play().then(look, (fault) => done("refused " + fault));
  setTimeout(() => done("stood still"), 8000);
});
</script>
"""


@dataclass(frozen=True)
class Moving:
    """A disc title of two seconds."""

    title: Title


@pytest.fixture(scope="module")
def moving(media: Path) -> Moving:
    source: Source = read_source(media / "HERON_REACH")
    return Moving(title=min(source.titles, key=lambda title: title.duration_s))


@pytest.fixture(scope="module")
def folder(tmp_path_factory: pytest.TempPathFactory) -> Path:
    return tmp_path_factory.mktemp("matrix")


def made(moving: Moving, name: str, folder: Path, pins: dict[str, str]) -> Path:
    target = device(name)
    request = PlanRequest(title=moving.title, devices=(target,), name="Film", languages=("en",), pins=read_pins(pins))
    order = Order(title=moving.title, plan=plan(request), devices=[target], folder=folder, token=name)
    done = convert(order)
    accepted = {breach.rule for breach in order.plan.breaches}
    assert [rule for rule in done.checks[0].results if not rule.ok and rule.rule not in accepted] == []
    return done.path


@pytest.mark.parametrize(("codec", "container"), always(SHOWN, of=MATRIX))
def test_every_codec_in_every_container_is_made_checked_and_played(
    moving: Moving, folder: Path, browser: Browser, codec: str, container: str
) -> None:
    pins = {"picture.codec": codec, "file.container": container, "picture.size": "180"}
    path = made(moving, "redshank-book-2", folder, pins)
    found = probe(str(path))
    assert found.video
    assert (found.video.codec, found.container, found.video.height) == (codec, container, 180)
    assert found.duration_s == pytest.approx(moving.title.duration_s, abs=0.3)
    if (codec, container) in BROWSER_PLAYS:
        page = browser.new_page()
        html = folder / "play.html"
        html.write_text(PLAY.replace("FILE", f'"{path.name}"'))
        page.goto(html.as_uri())
        assert page.evaluate("window.played") == "played 320x180"
        page.close()


@pytest.mark.parametrize("name", OWN_DEVICES)
def test_devices_of_every_codec_get_a_file_that_keeps_all_their_rules(moving: Moving, folder: Path, name: str) -> None:
    path = made(moving, name, folder, {})
    assert path.stat().st_size > 0


@pytest.mark.parametrize(
    ("codec", "container", "rate"),
    [
        thorough("h264", "mp4", "average:400"),
        ("hevc", "mp4", "size:1"),
        thorough("vp9", "webm", "average:300"),
        thorough("mpeg2video", "mpeg_ps", "average:1500"),
    ],
)
def test_two_passes_meet_the_rate_that_was_set(
    moving: Moving, folder: Path, codec: str, container: str, rate: str
) -> None:
    pins = {"picture.codec": codec, "file.container": container, "picture.size": "180", "picture.rate": rate}
    target = device("redshank-book-2")
    request = PlanRequest(title=moving.title, devices=(target,), name="Passes", languages=("en",), pins=read_pins(pins))
    plans = plan(request)
    assert plans.settings and plans.settings.video
    assert plans.settings.video.passes == 2
    path = made(moving, "redshank-book-2", folder, pins)
    assert path.exists()
