"""Painting: the still layers of a scene, and the pictures of subtitle lines."""

from __future__ import annotations

import math
import random
from pathlib import Path

from PIL import Image, ImageDraw, ImageFont

from .scenario import Line, Palette

LAYERS = 4


def paint_scene(palette: Palette, size: tuple[int, int], folder: Path, seed: int) -> list[Path]:
    """Paint a scene into ``folder``: the sky, then four strata twice as wide as the picture, a boat, and gulls."""
    folder.mkdir(parents=True, exist_ok=True)
    width, height = size
    paths = [folder / "sky.png"]
    _sky(palette, size).save(paths[0])
    for depth, colour in enumerate(palette.strata):
        path = folder / f"stratum{depth}.png"
        _stratum(colour, (2 * width, height), depth, seed).save(path)
        paths.append(path)
    for name, painted in (("boat", _boat(height)), ("gulls", _gulls(height, palette.sun))):
        path = folder / f"{name}.png"
        painted.save(path)
        paths.append(path)
    return paths


def paint_line(line: Line, width: int, path: Path) -> None:
    """Paint a subtitle line as a picture of at most four colours, for a disc's subpicture track."""
    font = ImageFont.load_default(size=26)
    picture = Image.new("RGBA", (width, 44), (0, 0, 0, 0))
    for colour, stroke in (("black", 2), ("white", 0)):
        mask = Image.new("L", picture.size)
        ImageDraw.Draw(mask).text((width / 2, 22), line.text, font=font, anchor="mm", fill=255, stroke_width=stroke)
        picture.paste(colour, mask=mask.point(lambda value: 255 if value > 110 else 0))
    picture.save(path)


def paint_caption(text: str, path: Path) -> None:
    font = ImageFont.load_default(size=30)
    picture = Image.new("RGBA", (640, 56), (0, 0, 0, 0))
    ImageDraw.Draw(picture).text((8, 28), text, font=font, anchor="lm", fill=(255, 253, 248, 235))
    picture.save(path)


def _sky(palette: Palette, size: tuple[int, int]) -> Image.Image:
    width, height = size
    sky = Image.new("RGB", size)
    draw = ImageDraw.Draw(sky)
    top, low = _rgb(palette.sky_top), _rgb(palette.sky_low)
    for y in range(height):
        part = min(1.0, y / (height * 0.7))
        draw.line(
            [(0, y), (width, y)],
            fill=tuple(round(a + (b - a) * part) for a, b in zip(top, low, strict=True)),
        )
    radius = height * 0.11
    x, y_sun = width * palette.sun_x, height * palette.sun_y
    draw.ellipse([x - radius, y_sun - radius, x + radius, y_sun + radius], fill=palette.sun)
    return sky


def _stratum(colour: str, size: tuple[int, int], depth: int, seed: int) -> Image.Image:
    """One band of land or water whose upper edge repeats every half width, so that it can scroll for ever."""
    width, height = size
    rand = random.Random(seed * 17 + depth)
    waves = [(rand.randint(1, 3 + depth), rand.random() * math.tau, rand.uniform(0.4, 1.0)) for _ in range(4)]
    base = height * (0.50 + 0.12 * depth)
    swing = height * (0.055 - 0.008 * depth)
    edge = [
        base + swing * sum(w * math.sin(n * math.tau * x / (width / 2) + phase) for n, phase, w in waves) / 2
        for x in range(width + 1)
    ]
    layer = Image.new("RGBA", size, (0, 0, 0, 0))
    draw = ImageDraw.Draw(layer)
    draw.polygon([(0, height), *enumerate(edge), (width, height)], fill=(*_rgb(colour), 255))
    for _ in range(26):
        x, y = rand.randint(0, width // 2), rand.randint(round(base + swing * 2), height)
        tint = tuple(min(255, channel + 16) for channel in _rgb(colour))
        for copy in (0, width // 2):
            draw.line([(x + copy, y), (x + copy + rand.randint(20, 70), y)], fill=(*tint, 255), width=2)
    return layer


def _boat(height: int) -> Image.Image:
    size = round(height * 0.22)
    boat = Image.new("RGBA", (size, size), (0, 0, 0, 0))
    draw = ImageDraw.Draw(boat)
    draw.polygon([(size * 0.46, size * 0.02), (size * 0.46, size * 0.76), (size * 0.1, size * 0.76)], fill="#24333A")
    draw.polygon([(size * 0.52, size * 0.14), (size * 0.52, size * 0.76), (size * 0.8, size * 0.76)], fill="#3B4D55")
    draw.polygon(
        [
            (size * 0.02, size * 0.82),
            (size * 0.98, size * 0.82),
            (size * 0.84, size * 0.96),
            (size * 0.16, size * 0.96),
        ],
        fill="#1B262B",
    )
    return boat


def _gulls(height: int, colour: str) -> Image.Image:
    """Three birds that fly fast enough for fields and cadences to be seen."""
    size = round(height * 0.24)
    gulls = Image.new("RGBA", (size, size), (0, 0, 0, 0))
    draw = ImageDraw.Draw(gulls)
    for x, y, span in ((0.30, 0.30, 0.28), (0.72, 0.22, 0.20), (0.62, 0.70, 0.24)):
        for side in (-1, 1):
            tip = (size * (x + side * span), size * (y - 0.08))
            wing = [(size * x, size * y), (size * (x + side * span * 0.5), size * (y - 0.14)), tip]
            draw.polygon([*wing, (size * (x + side * span * 0.5), size * (y - 0.05))], fill="#1B262B")
            draw.line([wing[0], wing[1]], fill=colour, width=2)
    return gulls


def _rgb(colour: str) -> tuple[int, int, int]:
    return int(colour[1:3], 16), int(colour[3:5], 16), int(colour[5:7], 16)
