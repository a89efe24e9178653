"""Which shape a pixel has."""

from __future__ import annotations

from ....catalogue import say
from ....media import Reason, VideoSettings, VideoStream
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, OneOf
from .common import of_encoded

SQUARE, STORED = "square", "stored"


@of_encoded
def _show(case: Case, source: VideoStream, made: VideoSettings) -> Shown:
    shape = made.sample_aspect
    square = shape == 1
    return Shown(
        value=SQUARE if square else STORED,
        text=say("square") if square else f"{shape.numerator}:{shape.denominator}",
        reason=Reason(code="pixels_square" if square else "pixels_stored"),
        fine=True,
        choices=(Choice(value=SQUARE, text=say("square")), Choice(value=STORED, text=say("as stored"))),
    )


PIXELS = DecisionKind(
    key="picture.pixels",
    label="Pixels",
    help="Square pixels, or the shape that they have on the source.",
    form=OneOf((SQUARE, STORED), "pixel shape"),
    show=_show,
    rules=("pixel_shape",),
)
