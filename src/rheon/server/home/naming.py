"""By which patterns files are called here."""

from __future__ import annotations

from collections.abc import Mapping

from rheon.core.catalogue import say
from rheon.core.errors import BadPattern
from rheon.core.media import ContentKind, Tags
from rheon.core.naming.patterns import (
    FLAT,
    KIND_NAMES,
    PLACES,
    PRESET_NAMES,
    PRESETS,
    Naming,
    file_path,
    read_pattern,
)

from . import documents
from .queries import home

EXAMPLES: Mapping[ContentKind, Tags] = {
    ContentKind.FILM: Tags(title="Marram Nights", year=1994, director="Ada Fenwick"),
    ContentKind.EPISODE: Tags(
        kind=ContentKind.EPISODE, title="Slack Water", show="Tide Watch", season=1, episode=2, year=2011
    ),
    ContentKind.EXTRA: Tags(kind=ContentKind.EXTRA, title="The Boats", show="Tide Watch"),
    ContentKind.SOUND: Tags(kind=ContentKind.SOUND, title="Neaps", artist="The Sluices"),
}
"""A work of each kind, to show what a pattern makes."""
MORE = {"device": "Wren 6", "language": "English"}
SHOWN = (ContentKind.FILM, ContentKind.EPISODE)
"""Kinds by which a preset is told."""


def house_naming() -> Naming:
    return FLAT.changed(home().naming)


def called_here(tags: Tags, naming: Naming | None = None) -> str:
    """What a file with these tags is called, without its ending, behind its folders; ``naming`` where it is known."""
    return file_path((naming or house_naming()).of(tags.kind), tags, {})


def naming_document(tried: Mapping[str, str] | None = None) -> documents.Naming:
    """The patterns, or those that somebody tries, with what they make of a work of their kind."""
    naming = house_naming().changed(tried or {})
    return documents.Naming(
        preset=next((name for name, one in PRESETS.items() if one == naming), None),
        presets=[
            documents.Preset(
                name=name,
                text=say(PRESET_NAMES[name]),
                examples=[file_path(one.of(kind), EXAMPLES[kind], MORE) for kind in SHOWN],
            )
            for name, one in PRESETS.items()
        ],
        patterns=[_pattern(kind, naming.of(kind)) for kind in ContentKind],
        places=[documents.PatternPlace(name=name, about=say(about)) for name, about in PLACES.items()],
    )


def _pattern(kind: ContentKind, text: str) -> documents.Pattern:
    try:
        example, fault = file_path(read_pattern(text), EXAMPLES[kind], MORE), ""
    except BadPattern as error:
        example, fault = "", error.what
    return documents.Pattern(kind=kind, label=say(KIND_NAMES[kind]), text=text, example=example, fault=fault)
