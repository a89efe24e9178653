"""Which titles follow another one: ``--join 2`` of the same source, ``--join other.mkv``, ``--join DISC#3``."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from rheon.core.analysis.joining import joined_title
from rheon.core.errors import NoSuchTitle
from rheon.core.media import Role, Source, Title
from rheon.core.media.joining import PartWanted

from .common import find_title, read


@dataclass(frozen=True, slots=True, kw_only=True)
class SaidPart:
    """A title that is to follow, as it was typed: where it lies (``None``: the same source), and its number."""

    path: Path | None
    number: int | None


def said_parts(said: Sequence[str]) -> tuple[SaidPart, ...]:
    return tuple(map(_said_part, said))


def _said_part(said: str) -> SaidPart:
    if said.isdigit():
        return SaidPart(path=None, number=int(said))
    path, mark, number = said.rpartition("#")
    if mark and number.isdigit() and not Path(said).exists():
        return SaidPart(path=Path(path), number=int(number))
    return SaidPart(path=Path(said), number=None)


def read_with(
    source: Path, parts: Sequence[SaidPart], artwork: str | None = None
) -> tuple[Source, list[tuple[Source, Title]]]:
    """The source, and what follows its title: (source, title). ``artwork`` may be a file that is read too.

    Raises ``SourceError`` or ``NoSuchTitle``.
    """
    others = [part.path for part in parts if part.path is not None]
    drawn = [Path(artwork)] if artwork and Path(artwork).is_file() else []
    first = read(source, beside=[*others, *drawn])
    found = {path: read(path, beside=[source, *others, *drawn]) for path in others}
    follow = [(found[part.path] if part.path else first, part.number) for part in parts]
    return first, [(one, _title(one, number)) for one, number in follow]


def _title(source: Source, number: int | None) -> Title:
    """The title with that number; without one, the only title or the film of a source."""
    if number is not None:
        return find_title(source, number)
    films = [title for title in source.titles if title.role is Role.FEATURE]
    able = source.titles if len(source.titles) == 1 else films
    if len(able) != 1:
        raise NoSuchTitle(
            "{label} has several titles.", label=source.label, advice="Say which: {label}#2, for example."
        )
    return find_title(source, able[0].number)


def joined_with(title: Title, name: str, follow: Sequence[tuple[str, Title]]) -> Title:
    """The title with those that follow it, (name, title) each. Raises ``CantJoin``."""
    wanted = [PartWanted(title=one, name=called) for called, one in ((name, title), *follow)]
    return joined_title(wanted, title.number, "+".join(one.title.key for one in wanted))
