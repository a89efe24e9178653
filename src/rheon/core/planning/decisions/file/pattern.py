"""By which pattern the file is called."""

from __future__ import annotations

from ....catalogue import say
from ....naming.patterns import PLACES, PRESET_NAMES, PRESETS, read_pattern
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, Special


def _read(said: str) -> str:
    return said if said in PRESETS else read_pattern(said)


def _show(case: Case) -> Shown | None:
    pattern = case.offers[PATTERN.key][0]
    kind = case.made.tags.kind
    known = {naming.of(kind): name for name, naming in PRESETS.items()}
    name = known.get(pattern)
    return Shown(
        value=name or pattern,
        text=say(PRESET_NAMES[name]) if name else pattern,
        reason=case.reasons[PATTERN.key],
        choices=tuple(Choice(value=name, text=say(PRESET_NAMES[name])) for name in PRESETS),
        fine=True,
    )


PATTERN = DecisionKind(
    key="file.pattern",
    label="Naming",
    help="By which pattern the file is called, with its folders.",
    form=Special(_read, f"{', '.join(PRESETS)}, or a pattern that names {', '.join(PLACES)}"),
    show=_show,
)
