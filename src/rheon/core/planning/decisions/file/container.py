"""Which container the file is."""

from __future__ import annotations

from dataclasses import dataclass

from ....catalogue import say
from ....formats import CONTAINERS
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, Special, Unreadable


@dataclass(frozen=True, slots=True)
class ContainerPin:
    """A container, and a file extension where one was said."""

    container: str
    extension: str | None


def read(said: str) -> ContainerPin:
    container, _, extension = said.partition(":")
    if container not in CONTAINERS:
        raise Unreadable("“{said}” is no container; it can be {known}.", said=said, known=", ".join(CONTAINERS))
    if extension and not (extension.isalnum() and len(extension) <= 4):
        raise Unreadable("“{extension}” is no file extension.", extension=extension)
    return ContainerPin(container, extension or None)


def _show(case: Case) -> Shown | None:
    holds = CONTAINERS[case.made.container]
    return Shown(
        value=holds.name,
        text=say("{label}, index in front", label=holds.label) if holds.name == "mp4" else holds.label,
        reason=case.reasons[CONTAINER.key],
        choices=tuple(Choice(value=name, text=CONTAINERS[name].label) for name in case.offers[CONTAINER.key]),
    )


CONTAINER = DecisionKind(
    key="file.container",
    label="Container",
    help="The container of the file, and its extension where that is to be another than usual.",
    form=Special(read, f"{', '.join(CONTAINERS)}; mp4:m4v"),
    show=_show,
    rules=("container", "extension", "index"),
)
