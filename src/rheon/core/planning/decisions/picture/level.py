"""Which level of the codec is kept."""

from __future__ import annotations

from ....catalogue import say
from ....formats import levels_of
from ....media import Reason, VideoSettings, VideoStream
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, Name
from .common import of_encoded


@of_encoded
def _show(case: Case, source: VideoStream, made: VideoSettings) -> Shown:
    known = levels_of(made.codec, made.profile)
    return Shown(
        value=made.level or "none",
        text=made.level or say("none"),
        reason=case.reasons[LEVEL.key] if known else Reason(code="no_levels"),
        fine=True,
        # where there are none, that is the reason, whatever was said
        keeps_reason=not known,
        choices=tuple(Choice(value=name, text=name) for name in known),
    )


LEVEL = DecisionKind(
    key="picture.level",
    label="Level",
    help="The level that size, rate and buffer stay inside.",
    form=Name("one that the codec has"),
    show=_show,
    rules=("level", "reference_frames"),
)
