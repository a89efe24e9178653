"""What the file is called."""

from __future__ import annotations

from ....media import Reason
from ..decision import PINNED, Case, DecisionKind, Shown
from ..form import Name as Word


def _show(case: Case) -> Shown | None:
    stem = case.made.file_name.rpartition(".")[0]
    if stem != case.pins.said.get(NAME.key, case.name):
        reason = Reason(code="name_made_safe", values={"file_system": case.file_system})
    else:
        reason = PINNED if NAME in case.pins else Reason(code="name_from_label")
    return Shown(value=stem, text=case.made.file_name, reason=reason, keeps_reason=True)


NAME = DecisionKind(
    key="file.name",
    label="Name",
    help="The name of the file, without its extension.",
    form=Word("text"),
    show=_show,
    own=True,
)
