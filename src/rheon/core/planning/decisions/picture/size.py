"""How large the picture is."""

from __future__ import annotations

import re
from dataclasses import dataclass

from ....catalogue import say
from ....media import Reason, VideoSettings, VideoStream
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, Range, Special, Unreadable
from .common import of_any, of_encoded, shown_aspect

SMALLEST_SIDE, LARGEST_SIDE = 16, 8192
USUAL_LINES = (2160, 1440, 1080, 720, 576, 480, 360, 240)
LINES = Range(low=SMALLEST_SIDE, high=LARGEST_SIDE, unit="lines")


@dataclass(frozen=True, slots=True)
class SizePin:
    """Lines, and columns where these were said too; both even."""

    width: int | None
    height: int


def even(side: int) -> int:
    return max(SMALLEST_SIDE, side - side % 2)


def read(said: str) -> SizePin:
    if not (match := re.fullmatch(r"(?:(\d{1,5})[x×])?(\d{1,5})", said)):
        raise Unreadable("“{said}” is no size: say lines, as in 480, or 854x480.", said=said)
    width, height = (even(int(match[1])) if match[1] else None), even(int(match[2]))
    if not SMALLEST_SIDE <= height <= LARGEST_SIDE or (width or SMALLEST_SIDE) > LARGEST_SIDE:
        raise Unreadable(
            "{said} is out of what can be made ({low} to {high}).", said=said, low=SMALLEST_SIDE, high=LARGEST_SIDE
        )
    return SizePin(width, height)


def _copied(case: Case, video: VideoSettings) -> Shown:
    return Shown(
        value=str(video.height),
        text=f"{video.width} × {video.height}",
        reason=Reason(code="stream_untouched"),
        ranges=(LINES,),
    )


@of_encoded
def _made(case: Case, source: VideoStream, made: VideoSettings) -> Shown:
    size = f"{made.width} × {made.height}"
    square = made.sample_aspect == 1
    lines = [line for line in USUAL_LINES if line < source.height]
    return Shown(
        value=str(made.height),
        text=size if square else say("{size}, shown {aspect}", size=size, aspect=shown_aspect(made)),
        reason=case.reasons[SIZE.key],
        choices=tuple(
            Choice(value=str(line), text=say("{count} lines", count=line))
            for line in dict.fromkeys([source.height, *lines, made.height])
        ),
        ranges=(LINES,),
    )


SIZE = DecisionKind(
    key="picture.size",
    label="Size",
    help="Lines of the picture; with columns too, its pixels change their shape so that it keeps its own.",
    form=Special(read, f"480 or 854x480, {SMALLEST_SIDE} to {LARGEST_SIDE}", (LINES,)),
    show=of_any(_copied, _made),
    rules=("picture",),
)
