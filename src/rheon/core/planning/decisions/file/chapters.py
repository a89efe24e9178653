"""Whether chapters go along."""

from __future__ import annotations

from ....catalogue import say
from ....formats import CONTAINERS
from ....media import Reason
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, OneOf

KEEP, DROP = "keep", "none"


def _show(case: Case) -> Shown | None:
    count = len(case.title.chapters)
    holds = CONTAINERS[case.made.container]
    code = "chapters_kept" if holds.chapters else "no_chapters_in_container"
    kept = bool(count and case.made.chapters)
    return Shown(
        value=KEEP if case.made.chapters else DROP,
        text=str(count) if kept else say("none"),
        reason=Reason(code=code if count else "no_chapters_in_title", values={"container": holds.label}),
        choices=(Choice(value=KEEP, text=say("kept")), Choice(value=DROP, text=say("none")))
        if count and holds.chapters
        else (),
    )


CHAPTERS = DecisionKind(
    key="file.chapters",
    label="Chapters",
    help="Whether the title's chapters go into the file.",
    form=OneOf((KEEP, DROP), "way with chapters"),
    show=_show,
)
