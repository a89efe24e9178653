"""Which lines of the subtitles go along."""

from __future__ import annotations

from ....media import Reason
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, OneOf

ALL, FORCED = "all", "forced"
TEXTS = {ALL: "all", FORCED: "only the forced ones"}


def _show(case: Case) -> Shown | None:
    if case.made.video is None or not case.made.subtitles:
        return None
    value = FORCED if any(words.only_forced for words in case.made.subtitles) else ALL
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
    form=OneOf((ALL, FORCED), "choice of lines"),
    show=_show,
)
