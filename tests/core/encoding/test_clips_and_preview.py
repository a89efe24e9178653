"""Sample clips hold what they say; a preview is the picture that the plan makes."""

from __future__ import annotations

import io
from dataclasses import replace
from pathlib import Path

import pytest
from PIL import Image

from rheon.core.devices import CLIPS, Clip
from rheon.core.encoding import PreviewRequest, make_clip, preview_jpeg
from rheon.core.engine import probe
from rheon.core.errors import EngineError
from rheon.core.media import Source, Title
from rheon.core.planning import PlanRequest, plan, read_pins
from rheon.core.sources import read_source
from rheon.demo.models import device

QUICK = [clip for clip in CLIPS if clip.height <= 1080 and clip.video != "vp9"]


@pytest.mark.parametrize("clip", QUICK, ids=lambda clip: clip.id)
def test_a_clip_holds_what_it_says(clip: Clip, tmp_path: Path) -> None:
    path = tmp_path / "clip"
    make_clip(clip, path)
    found = probe(str(path))
    assert found.container == clip.container
    assert found.duration_s == pytest.approx(0.8, abs=0.15)
    if clip.video:
        assert found.video
        said = (found.video.codec, found.video.width, found.video.height, found.video.bit_depth)
        assert said == (clip.video, clip.width, clip.height, clip.depth)
        assert round(found.video.frame_rate) == clip.rate
        if clip.video in ("h264", "hevc"):
            assert (found.video.profile, found.video.level) == (clip.profile, clip.level)
    else:
        assert (found.audio[0].codec, found.audio[0].channels) == (clip.audio, clip.channels)


def preview(title: Title, at_s: float, work: Path, **pins: str) -> Image.Image:
    made = plan(
        PlanRequest(
            title=title,
            devices=(device("heron-8"),),
            name="x",
            languages=("en",),
            pins=read_pins({key.replace("_", "."): value for key, value in pins.items()}),
        )
    )
    assert made.settings
    work.mkdir()
    return Image.open(io.BytesIO(preview_jpeg(PreviewRequest(title=title, settings=made.settings, at_s=at_s), work)))


def bright_below(picture: Image.Image) -> int:
    """Bright points in the lowest tenth, where the disc's subtitles stand in a black bar."""
    grey = picture.convert("L").crop((0, int(picture.height * 0.89), picture.width, picture.height))
    return sum(point > 170 for point in grey.getdata())  # type: ignore[attr-defined]


def test_crop_and_size_are_seen(film_disc: Source, tmp_path: Path) -> None:
    film = film_disc.titles[0]
    assert preview(film, 20.0, tmp_path / "a").size == (854, 480)
    assert preview(film, 20.0, tmp_path / "b", picture_crop="60,60,0,0", picture_size="240").size == (568, 240)


def test_a_disc_s_subtitles_are_drawn_where_they_will_stand(film_disc: Source, tmp_path: Path) -> None:
    film = film_disc.titles[0]
    shown = bright_below(preview(film, 5.0, tmp_path / "with", subtitles_track="0"))
    plain = bright_below(preview(film, 5.0, tmp_path / "without"))
    assert shown > 100 + 10 * plain


def test_text_is_drawn_at_its_own_time(media: Path, tmp_path: Path) -> None:
    regatta = read_source(media / "camera" / "Regatta, two languages.mkv").titles[0]

    def differs(at_s: float) -> int:
        drawn = preview(regatta, at_s, tmp_path / f"w{at_s}", subtitles_track="0", subtitles_form="drawn")
        plain = preview(regatta, at_s, tmp_path / f"o{at_s}", subtitles_track="none")
        pair = [picture.convert("L").resize((64, 36)).getdata() for picture in (drawn, plain)]
        return sum(abs(a - b) for a, b in zip(*pair, strict=True))

    assert differs(4.0) > 4 * max(50, differs(8.0))


def test_without_a_picture_there_is_nothing_to_see(film_disc: Source, tmp_path: Path) -> None:
    film = replace(film_disc.titles[0])
    made = plan(PlanRequest(title=film, devices=(device("sound-only"),), name="x"))
    assert made.settings
    with pytest.raises(EngineError, match="Only the sound"):
        preview_jpeg(PreviewRequest(title=film, settings=made.settings, at_s=1.0), tmp_path)
