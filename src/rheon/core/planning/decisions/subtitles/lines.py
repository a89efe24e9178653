"""Which lines of the subtitles go along."""

from __future__ import annotations

from ....media import Reason
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, OneOf

ALL_LINES, FORCED_LINES = "all", "forced"
TEXTS = {ALL_LINES: "all", FORCED_LINES: "only the forced ones"}


def _show(case: Case) -> Shown | None:
    if case.made.video is None or not case.made.subtitles:
        return None
    value = FORCED_LINES if any(words.only_forced for words in case.made.subtitles) else ALL_LINES
    return Shown(
        value=value,
        text=TEXTS[value],
        reason=Reason(code="lines_as_wished"),
        fine=True,
        choices=tuple(Choice(value=name, text=text) for name, text in TEXTS.items()),
    )


LINES = DecisionKind(
    key="words.lines",
    label="Lines",
    help="Every line of the subtitles, or only those that are forced.",
    form=OneOf((ALL_LINES, FORCED_LINES), "choice of lines"),
    show=_show,
)
