"""How the parts of a join become one: as they are, one after the other, or converted to one form."""

from __future__ import annotations

from ....catalogue import say
from ....media import Action, Reason
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, OneOf

COPY, CONVERT = "copy", "convert"


def _show(case: Case) -> Shown | None:
    if not case.title.joined:
        return None
    texts = {COPY: say("as they are"), CONVERT: say("converted to one form")}
    streams = (case.made.video, *case.made.audio)
    copied = all(stream is None or stream.action is Action.COPY for stream in streams)
    value = COPY if copied or (case.made.video and case.made.video.action is Action.COPY) else CONVERT
    offered = (COPY, CONVERT) if case.title.parts_agree else (CONVERT,)
    return Shown(
        value=value,
        text=texts[value],
        reason=Reason(code=_why(case, value)),
        keeps_reason=True,
        choices=tuple(Choice(value=one, text=texts[one]) for one in offered),
    )


def _why(case: Case, value: str) -> str:
    if value == COPY:
        return "parts_agree"
    return "parts_agree_converted" if case.title.parts_agree else "parts_differ"


JOIN = DecisionKind(
    key="range.join",
    label="Joined",
    help="Whether the parts of a join are put together as they are, or converted to one form.",
    form=OneOf((COPY, CONVERT), "way to join"),
    show=_show,
    rules=("video_codec",),
    own=True,
)
