"""Frames that make a picture of a title: never black, blurred, combed or with lines of text."""

from __future__ import annotations

import io
import math
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import numpy as np
import numpy.typing as npt
import pytest
from PIL import Image, ImageDraw, ImageFilter, ImageFont
from tests.instruments.engine import output_of
from tests.thorough import always, thorough

from rheon.core.analysis import cover_jpeg, frame_picture, propose_stills, read_picture, shaped_jpeg
from rheon.core.analysis.artwork.faces import face_share
from rheon.core.analysis.artwork.faults import has_text, is_combed, is_empty, is_night
from rheon.core.errors import BadPicture
from rheon.core.media import Borders, Cover, Scan, Shape, Title
from rheon.core.sources import read_source

SIZE = (352, 288)
RATE, EACH_S = 5, 8
Paint = Callable[[int], Image.Image]


def scenery(number: int, size: tuple[int, int] = SIZE, seed: int = 3) -> Image.Image:
    """Soft shapes with edges in them, of several colours, that move on with each number."""
    rng = np.random.default_rng(seed)
    grey = Image.fromarray(rng.integers(0, 256, (size[1] // 12, size[0] // 6), dtype=np.uint8))
    wide = np.asarray(grey.resize((size[0] * 2, size[1]), Image.Resampling.BICUBIC), dtype=np.float32)
    moved = np.roll(wide, -3 * number, axis=1)[:, : size[0]]
    steps = np.floor(moved / 40) * 40
    return Image.fromarray(np.stack([steps, moved, 255 - steps], axis=2).clip(0, 255).astype(np.uint8))


def black(number: int) -> Image.Image:
    return Image.new("RGB", SIZE, (8, 8, 10))


def dark(number: int) -> Image.Image:
    return scenery(number).point(lambda value: value // 7)


def blurred(number: int) -> Image.Image:
    return scenery(number).filter(ImageFilter.GaussianBlur(9))


def flat(number: int) -> Image.Image:
    return Image.new("RGB", SIZE, (96, 112, 128))


def told(text: str, size: int, colour: str, top: int) -> Paint:
    def paint(number: int) -> Image.Image:
        picture = scenery(number)
        font = ImageFont.load_default(size=size)
        place = (SIZE[0] / 2, top)
        ImageDraw.Draw(picture).text(
            place, text, font=font, anchor="mm", fill=colour, stroke_width=2, stroke_fill="black"
        )
        return picture

    return paint


WHITE_LINE = told("And where do you think he went?", 18, "white", 258)
YELLOW_LINE = told("To the other side of it.", 20, "#ffee55", 250)


TWO_LINES = told("One line of talk\nand another one", 17, "white", 245)


def card(number: int) -> Image.Image:
    picture = black(number)
    ImageDraw.Draw(picture).text((40, 120), "MARRAM NIGHTS", font=ImageFont.load_default(size=34), fill="white")
    return picture


def white(number: int) -> Image.Image:
    return Image.new("RGB", SIZE, (252, 252, 250))


def faded(number: int) -> Image.Image:
    """Half black: a fade in the middle."""
    return scenery(number).point(lambda value: value // 6 + 8)


def combed(number: int) -> Image.Image:
    early, late = (np.asarray(scenery(at)).copy() for at in (2 * number, 2 * number + 2))
    early[1::2] = late[1::2]
    return Image.fromarray(early)


def film(target: Path, paints: list[Paint], borders: int = 0) -> Title:
    frames = b"".join(paint(number).tobytes() for paint in paints for number in range(RATE * EACH_S))
    size = f"{SIZE[0]}x{SIZE[1]}"
    argv = ["ffmpeg", "-v", "error", "-f", "rawvideo", "-pix_fmt", "rgb24", "-s", size, "-r", str(RATE), "-i", "pipe:0"]
    argv += ["-vf", f"pad=ih*4/3:ih+{2 * borders}:-1:-1,format=yuv420p", "-c:v", "libx264", "-crf", "16", "-g", "25"]
    output_of([*argv, "-preset", "veryfast", str(target)], feed=lambda: iter([frames]))
    return read_source(target).titles[0]


FILMS: dict[str, list[Paint]] = {
    "black": [black, scenery, black],
    "dark": [scenery, dark, black],
    "blurred": [blurred, scenery, blurred],
    "a white line": [WHITE_LINE, scenery, WHITE_LINE],
    "a yellow line": [scenery, YELLOW_LINE, WHITE_LINE],
    "flat": [flat, flat, scenery],
    "combed": [combed, scenery, combed],
    "of all": [WHITE_LINE, blurred, dark, scenery, combed, black],
    "a title on black": [card, scenery, card],
    "two lines": [TWO_LINES, TWO_LINES, scenery],
    "white": [white, scenery, flat],
    "faded": [faded, scenery, faded],
}


@pytest.mark.parametrize("name", always(("combed", "of all", "a white line"), of=FILMS))
def test_what_is_proposed_is_of_the_scene_that_can_be_seen(name: str, tmp_path: Path) -> None:
    paints = FILMS[name]
    title = film(tmp_path / "film.mkv", paints)
    found = propose_stills(title)
    assert found and found[0].score == max(still.score for still in found)
    # between two pictures it is the second one that is meant
    shown = [paints[min(len(paints) - 1, math.ceil(still.at_s * RATE) // (RATE * EACH_S))] for still in found]
    assert all(paint is scenery for paint in shown), [(still.at_s, still.score) for still in found]


def test_a_film_by_night_has_a_picture_too(tmp_path: Path) -> None:
    def night(number: int) -> Image.Image:
        return scenery(number).point(lambda value: max(0, (value - 60) // 2))

    found = propose_stills(film(tmp_path / "film.mkv", [black, night, black]))
    assert found and all(EACH_S - 0.2 <= still.at_s <= 2 * EACH_S for still in found)
    assert is_night(as_grey(night(0)))


def test_leaves_and_glitter_are_no_text() -> None:
    rng = np.random.default_rng(2)
    base = as_grey(scenery(4, (640, 360)).point(lambda value: value // 3))
    sparks = np.where(rng.random(base.shape) < 0.12, 150.0, 0.0).astype(np.float32)
    leaves, water = base + sparks, base.copy()
    water[200:] += sparks[200:]
    assert not has_text(leaves) and not has_text(water)
    for paint in (WHITE_LINE, YELLOW_LINE, told("Chapter One", 20, "white", 40)):
        assert has_text(as_grey(paint(4)))


def test_frames_of_other_scenes_come_before_more_of_the_same(tmp_path: Path) -> None:
    def other(number: int) -> Image.Image:
        return Image.fromarray(255 - np.asarray(scenery(number, seed=9)))

    title = film(tmp_path / "film.mkv", [scenery, scenery, other])
    first, second, *_ = propose_stills(title)
    assert {first.at_s > 2 * EACH_S, second.at_s > 2 * EACH_S} == {True, False}


def test_where_nothing_can_be_seen_nothing_is_proposed(tmp_path: Path) -> None:
    assert propose_stills(film(tmp_path / "film.mkv", [black, flat, dark])) == ()


def as_grey(picture: Image.Image) -> npt.NDArray[np.float32]:
    return np.asarray(picture.convert("L"), dtype=np.float32)


@pytest.mark.parametrize("seed", [0, 1, *(thorough(seed) for seed in range(2, 6))])
def test_each_measure_knows_its_own_fault_only(seed: int) -> None:
    good = as_grey(scenery(4, (720, 576), seed))
    assert not is_combed(good) and not has_text(good) and not is_empty(good)
    noisy = good + np.random.default_rng(seed).normal(0, 12, good.shape).astype(np.float32)
    assert not is_combed(noisy) and not has_text(noisy)
    for moved in (2, 5, 11, 24):
        late = np.roll(good, moved, axis=1)
        weaved = good.copy()
        weaved[1::2] = late[1::2]
        assert is_combed(weaved), moved


def test_fields_of_two_moments_are_made_one_picture(tmp_path: Path) -> None:
    title = film(tmp_path / "film.mkv", [combed])
    assert title.video is not None
    as_stored = frame_picture(replace(title, video=replace(title.video, scan=Scan.PROGRESSIVE)), 3.0)
    of_fields = frame_picture(replace(title, video=replace(title.video, scan=Scan.INTERLACED)), 3.0)
    assert is_combed(as_grey(as_stored)) and not is_combed(as_grey(of_fields))


def test_heads_in_the_middle_count_and_sand_does_not() -> None:
    def drawn(*heads: tuple[int, int, int, int]) -> Image.Image:
        picture = Image.new("RGB", (640, 360), (70, 90, 110))
        for head in heads:
            ImageDraw.Draw(picture).ellipse(head, fill=(205, 150, 125))
        return picture

    one, aside = drawn((270, 80, 370, 220)), drawn((20, 80, 120, 220))
    several = drawn((150, 80, 250, 220), (270, 80, 370, 220), (400, 80, 500, 220))
    assert face_share(several) > face_share(one) > face_share(aside) > 0
    assert face_share(drawn()) == face_share(drawn((0, 100, 640, 360))) == face_share(drawn((0, 170, 640, 190))) == 0


def test_a_cover_has_no_borders_and_the_shape_that_is_wanted(tmp_path: Path) -> None:
    title = film(tmp_path / "film.mkv", [scenery], borders=40)
    assert title.video is not None
    known = replace(title, video=replace(title.video, borders=Borders(top=40, bottom=40)))
    for one in (title, known):
        for shape, size in ((Shape.POSTER, (600, 900)), (Shape.WIDE, (1088, 612)), (Shape.SQUARE, (600, 600))):
            made = Image.open(io.BytesIO(cover_jpeg(one, Cover(at_s=4.0, shape=shape))))
            assert (made.format, made.size) == ("JPEG", size)
            grey = as_grey(made)
            assert min(grey[:6].mean(), grey[-6:].mean(), grey[:, :6].mean(), grey[:, -6:].mean()) > 40


def test_a_part_of_a_picture_is_kept_as_it_is_said() -> None:
    halves = Image.new("RGB", (1200, 600), "red")
    halves.paste("blue", (600, 0, 1200, 600))
    for across, colour in ((0.0, (254, 0, 0)), (1.0, (0, 0, 254))):
        made = Image.open(io.BytesIO(shaped_jpeg(halves, Cover(shape=Shape.SQUARE, across=across))))
        assert made.getpixel((300, 300)) == pytest.approx(colour, abs=3)


def test_own_pictures_are_turned_upright_and_what_is_none_is_refused() -> None:
    def written(picture: Image.Image, kind: str, **more: object) -> bytes:
        target = io.BytesIO()
        picture.save(target, kind, **more)
        return target.getvalue()

    turned = Image.Exif()
    turned[0x0112] = 6
    assert read_picture(written(Image.new("RGB", (200, 100)), "JPEG", exif=turned)).size == (100, 200)
    clear = Image.new("RGBA", (100, 100), (0, 0, 0, 0))
    assert read_picture(written(clear, "PNG")).getpixel((5, 5)) == (255, 255, 255)
    assert read_picture(written(clear, "WEBP")).size == (100, 100)
    for data in (
        b"",
        b"no picture",
        written(clear, "GIF"),
        written(clear, "PNG")[:60],
        written(clear.resize((9, 9)), "PNG"),
    ):
        with pytest.raises(BadPicture):
            read_picture(data)
    bomb = written(Image.new("1", (30_000, 30_000)), "PNG")
    with pytest.raises(BadPicture):
        read_picture(bomb)
