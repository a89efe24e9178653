"""Which lines of the subtitles go along."""

from __future__ import annotations

from ....catalogue import later, say
from ....media import Reason
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, OneOf

ALL_LINES, FORCED_LINES = "all", "forced"
TEXTS = {ALL_LINES: later("all"), FORCED_LINES: later("only the forced ones")}


def _show(case: Case) -> Shown | None:
    if case.made.video is None or not case.made.subtitles:
        return None
    value = FORCED_LINES if any(subtitle.only_forced for subtitle in case.made.subtitles) else ALL_LINES
    return Shown(
        value=value,
        text=say(TEXTS[value]),
        reason=Reason(code="lines_as_wished"),
        fine=True,
        choices=tuple(Choice(value=name, text=say(text)) for name, text in TEXTS.items()),
    )


LINES = DecisionKind(
    key="subtitles.lines",
    label="Lines",
    help="Every line of the subtitles, or only those that are forced.",
    form=OneOf((ALL_LINES, FORCED_LINES), "choice of lines"),
    show=_show,
)
