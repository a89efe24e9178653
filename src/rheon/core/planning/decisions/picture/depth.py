"""How many bits a sample of the picture has."""

from __future__ import annotations

from ....formats import video_encoder
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, OneOf
from .common import encoded

EIGHT, TEN = "8", "10"


def _show(case: Case) -> Shown | None:
    if (pictures := encoded(case)) is None:
        return None
    made = pictures[1]
    able = (EIGHT, TEN) if video_encoder(made.codec, made.encoder).ten_bit_profile else (EIGHT,)
    return Shown(
        value=str(made.bit_depth),
        text=f"{made.bit_depth} bits",
        reason=case.reason(DEPTH.key),
        fine=True,
        choices=tuple(Choice(value=depth, text=f"{depth} bits") for depth in able),
    )


DEPTH = DecisionKind(
    key="picture.depth",
    label="Depth",
    help="Bits of each sample of the picture.",
    form=OneOf((EIGHT, TEN), "bit depth that is made"),
    show=_show,
    rules=("bit_depth",),
)
