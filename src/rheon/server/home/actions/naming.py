"""Choosing by which patterns files are called."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict

from rheon.core.media import ContentKind
from rheon.core.naming.patterns import FLAT, PRESETS, PresetName, read_pattern

from ..queries import home
from .row import change_home


def change_naming(patterns: Mapping[str, str]) -> None:
    """Set patterns by kind; an empty one gives back what Rheon begins with. Raises ``BadPattern``."""
    kept = {**home().naming, **{kind: read_pattern(one) if one else "" for kind, one in patterns.items()}}
    change_home(naming={kind: one for kind, one in kept.items() if one and one != FLAT.of(ContentKind(kind))})


def choose_preset(preset: PresetName) -> None:
    change_naming(asdict(PRESETS[preset]))
