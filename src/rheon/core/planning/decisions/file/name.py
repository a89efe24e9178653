"""What the file is called."""

from __future__ import annotations

from ....media import Reason
from ..decision import PINNED, Case, DecisionKind, Shown
from ..form import Name as Word


def _show(case: Case) -> Shown | None:
    path, _, _ = case.made.file_name.rpartition(".")
    stem = path.rpartition("/")[2]
    if NAME not in case.pins:
        reason = Reason(code="name_by_pattern")
    elif stem == case.pins.said[NAME.key]:
        reason = PINNED
    else:
        reason = Reason(code="name_made_safe", values={"file_system": case.file_system})
    return Shown(value=stem, text=case.made.file_name, reason=reason, keeps_reason=True)


NAME = DecisionKind(
    key="file.name",
    label="Name",
    help="The name of the file, without its folder and its extension.",
    form=Word("text"),
    show=_show,
    own=True,
)
