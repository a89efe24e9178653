"""The source's side of what is looked at: its whole picture, beside what is made of it. Pure."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction

from ..commands.tone_mapping import SCREEN
from ..media import Action, Borders, DynamicRange, Fields, Scan, Title, VideoSettings, VideoStream
from ..media.fitting import bars_around
from ..media.kept import KeptRange, piece_shown, stretches_of
from .seconds import clear, even

MOST_LINES = 1080
CLEAR = 14
"""Constant quality at which nobody sees a difference to the source."""
WHOLE = {Scan.INTERLACED: Fields.JOIN, Scan.MIXED: Fields.MATCH}
"""How fields become whole frames to be looked at."""


def for_stretch(title: Title, made: VideoSettings, kept: Sequence[KeptRange], stretch: KeptRange) -> VideoSettings:
    """What is done to the picture of a stretch: of a joined title, whose parts may differ, to those that it shows."""
    if not made.parts:
        return made
    shown = (piece_shown(title, kept, part, one.from_s) for part, one in stretches_of(title, (stretch,)))
    return replace(made, parts=tuple(made.parts[number] for number in shown))


def of_source(title: Title, made: VideoSettings, stretch: KeptRange) -> VideoSettings:
    """The whole picture in the source's size, square pixels and own colours, at the times of what will be made.

    Parts of a joined title lie whole within the frame of the largest; ``made`` is that of the stretch.
    """
    video = title.video
    assert video is not None
    lines = min(MOST_LINES, video.upright_size[1])
    size = even(lines * video.display_aspect), even(Fraction(lines))
    if not title.joined:
        return _picture(video, made, size)
    shown = [part.video for part, _ in stretches_of(title, (stretch,)) if part.video is not None]
    own = itertools.cycle(made.parts or (made,))
    parts = tuple(_picture(one, each, size) for one, each in zip(shown, own, strict=False))
    return replace(parts[0], parts=parts)


def _picture(video: VideoStream, made: VideoSettings, size: tuple[int, int]) -> VideoSettings:
    shown = made if made.action is Action.ENCODE else _timed(video, made)
    if shown.fields is Fields.KEEP:
        shown = replace(shown, fields=Fields.JOIN)
    bright = video.dynamic_range is not DynamicRange.STANDARD
    return replace(
        clear(shown, size, CLEAR),
        crop=Borders(),
        pad=bars_around(size, Fraction(*size), video.display_aspect),
        rotation=video.rotation,
        rotation_from=video.rotation,
        colour=SCREEN if bright else video.colour,
        colour_from=video.colour if bright else None,
        bit_depth_from=video.bit_depth,
        whole_planes_from=video.in_whole_planes(Borders()),
    )


def _timed(video: VideoStream, made: VideoSettings) -> VideoSettings:
    return replace(
        made,
        frame_rate=video.frame_rate,
        variable_rate=video.variable_rate,
        fields=WHOLE.get(video.scan, Fields.LEAVE),
        top_field_first=video.top_field_first,
    )
