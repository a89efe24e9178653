"""Which field of a picture was taken first."""

from __future__ import annotations

from ....catalogue import later, say
from ....media import OF_FIELDS, Fields, Reason, VideoSettings, VideoStream
from ..decision import AUTOMATIC, Case, DecisionKind, Shown
from ..form import Choice, OneOf
from .common import of_encoded

TOP, BOTTOM = "top", "bottom"
ORDERS = {TOP: later("the top field first"), BOTTOM: later("the bottom field first")}


@of_encoded
def _show(case: Case, source: VideoStream, made: VideoSettings) -> Shown | None:
    if made.fields is Fields.LEAVE or (made.fields is Fields.RESTORE and not made.film_in_fields):
        return None
    found = TOP if source.top_field_first else BOTTOM
    return Shown(
        value=case.pins.said.get(FIELD_ORDER.key, AUTOMATIC),
        text=say(ORDERS[TOP if made.top_field_first else BOTTOM]),
        reason=Reason(code=_why(source)),
        fine=True,
        choices=(
            Choice(value=AUTOMATIC, text=say("as found: {order}", order=say(ORDERS[found]))),
            *(Choice(value=name, text=say(text)) for name, text in ORDERS.items()),
        ),
    )


def _why(source: VideoStream) -> str:
    if source.scan not in OF_FIELDS:
        return "field_order_usual"
    looked_at = source.borders is not None
    return "field_order_seen" if looked_at else "field_order_told"


FIELD_ORDER = DecisionKind(
    key="picture.field_order",
    label="Field order",
    help="Which field of a picture was taken first. The wrong one makes movement go back and forth.",
    form=OneOf(tuple(ORDERS), "field order"),
    show=_show,
)
