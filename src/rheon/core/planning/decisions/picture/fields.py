"""What becomes of fields."""

from __future__ import annotations

from ....media import Fields
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, Kind
from .common import encoded

TEXTS = {
    Fields.LEAVE: "left as they are",
    Fields.JOIN: "joined in pairs",
    Fields.DOUBLE: "a frame of each",
    Fields.RESTORE: "film restored",
}


def _show(case: Case) -> Shown | None:
    if (pictures := encoded(case)) is None:
        return None
    made = pictures[1]
    whole = made.fields is Fields.LEAVE and not made.combed
    return Shown(
        value=made.fields.value,
        text="none, whole frames" if whole else TEXTS[made.fields],
        reason=case.reason(FIELDS.key),
        fine=whole,
        choices=tuple(Choice(value=item.value, text=TEXTS[item]) for item in Fields),
    )


FIELDS = DecisionKind(
    key="picture.fields",
    label="Fields",
    help="What becomes of the fields of an interlaced picture.",
    form=Kind(Fields, "way with fields"),
    show=_show,
    rules=("scan",),
)
