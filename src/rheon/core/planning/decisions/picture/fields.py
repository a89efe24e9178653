"""What becomes of fields."""

from __future__ import annotations

from ....catalogue import later, say
from ....media import Fields, VideoSettings, VideoStream
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, Enumerated
from .common import of_encoded

TEXTS = {
    Fields.LEAVE: later("nothing is done"),
    Fields.KEEP: later("kept and coded as fields"),
    Fields.JOIN: later("a frame of each pair"),
    Fields.DOUBLE: later("a frame of each field"),
    Fields.RESTORE: later("film restored"),
    Fields.MATCH: later("film restored, the rest in pairs"),
}


@of_encoded
def _show(case: Case, source: VideoStream, made: VideoSettings) -> Shown:
    whole = made.fields is Fields.LEAVE and not made.combed
    return Shown(
        value=made.fields.value,
        text=say("none, whole frames") if whole else say(TEXTS[made.fields]),
        reason=case.reasons[FIELDS.key],
        fine=whole,
        choices=tuple(Choice(value=item.value, text=say(TEXTS[item])) for item in Fields),
    )


FIELDS = DecisionKind(
    key="picture.fields",
    label="Fields",
    help="What becomes of the fields of an interlaced picture.",
    form=Enumerated(Fields, "way with fields"),
    show=_show,
    rules=("scan",),
)
