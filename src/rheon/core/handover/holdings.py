"""What a library holds: its files, each as devices meet it, and which of them are there twice."""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Hashable, Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path, PurePosixPath
from typing import TypeVar

from ..checking import read_facts
from ..delivery import folded
from ..devices import MediaFacts
from ..errors import RheonError, SourceMissing
from ..naming.episodes import episode_name
from ..naming.labels import is_meaningless, read_name
from ..sources.files.library import MOST_FOUND
from ..system import path_text
from .transfer import ordinary_file

Some = TypeVar("Some")
SAMPLE_BYTES = 16 << 10
CHUNK_BYTES = 4 << 20
LENGTH_TOLERANCE, LEAST_TOLERANCE_S = 0.01, 2.0
"""A film that another program cut or converted differs by its logos, at most."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Holding:
    """A file of a library by its ``path`` below the library's folder.

    ``sample`` tells it from others of its size by three places in it; ``facts`` are ``None`` where it can't be read,
    and ``trouble`` says why.
    """

    path: str
    size_bytes: int
    mtime_ns: int
    sample: str
    facts: MediaFacts | None
    trouble: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Double:
    """Files that are there twice, by their paths: the ``same`` content, or the same work by name and length."""

    same: bool
    paths: tuple[str, ...]


def hold(root: Path, path: Path, known: Holding | None) -> Holding | None:
    """A file as it is now; the one ``known`` if it has not changed, ``None`` where it is gone."""
    try:
        said = path.lstat()
        if known is not None and (known.size_bytes, known.mtime_ns) == (said.st_size, said.st_mtime_ns):
            return known
        sample = _sample(path, said.st_size)
    except (OSError, SourceMissing):
        return None
    facts, trouble = None, ""
    try:
        facts = read_facts(path)
    except RheonError as error:
        trouble = error.what
    return Holding(
        path=path_text(str(path.relative_to(root))),
        size_bytes=said.st_size,
        mtime_ns=said.st_mtime_ns,
        sample=sample,
        facts=facts,
        trouble=trouble,
    )


def alike_by_sample(held: Sequence[Holding]) -> list[tuple[Holding, ...]]:
    """Those whose sizes and samples agree: whether they are the same is for ``same_content`` to say."""
    return _groups(held, lambda one: (one.size_bytes, one.sample))


def same_content(paths: Sequence[Path]) -> list[tuple[Path, ...]]:
    """Which of these files have the same bytes, each read to its end; those that can't be read are with none."""
    return _groups([path for path in paths if path.is_file()], _digest)


def same_work(held: Sequence[Holding]) -> list[tuple[Holding, ...]]:
    """Files of one film or episode by their names, whose lengths agree: within a hundredth, or two seconds."""
    found = []
    named = [one for one in held if one.facts is not None and _work(one.path)]
    for group in _groups(named, lambda one: _work(one.path)):
        by_length = sorted(group, key=_length)
        near = [by_length[0]]
        for one in by_length[1:]:
            if _length(one) - _length(near[0]) > max(LEAST_TOLERANCE_S, LENGTH_TOLERANCE * _length(near[0])):
                found.append(tuple(near))
                near = []
            near.append(one)
        found.append(tuple(near))
    return [group for group in found if len(group) > 1]


def doubles(held: Sequence[Holding], same: Sequence[Sequence[str]]) -> list[Double]:
    """What is there twice: groups with the ``same`` content, and of each one together with others of its work."""
    stands_for = {path: group[0] for group in same for path in group}
    alone = [one for one in held if stands_for.get(one.path, one.path) == one.path]
    works = [Double(same=False, paths=tuple(one.path for one in group)) for group in same_work(alone)]
    return [*(Double(same=True, paths=tuple(group)) for group in same), *works]


def _groups(found: Iterable[Some], key: Callable[[Some], Hashable]) -> list[tuple[Some, ...]]:
    """Those with the same key, where there is more than one, in the order in which they came."""
    groups: dict[Hashable, list[Some]] = {}
    for one in found:
        groups.setdefault(key(one), []).append(one)
    return [tuple(group) for group in groups.values() if len(group) > 1]


def _length(one: Holding) -> float:
    return one.facts.duration_s if one.facts else 0.0


@lru_cache(maxsize=4 * MOST_FOUND)
def _work(held_path: str) -> Hashable:
    """The work that a name says; nothing where programs gave it, or two films may well be called so."""
    path = PurePosixPath(held_path)
    said = read_name(path.stem)
    counted = episode_name(path.stem, path.parent.name)
    episode = (counted.season, counted.episode) if counted is not None else ()
    title = said.title or (path.parent.name if counted is not None else "")
    if not title or is_meaningless(title):
        return ()
    return (folded(title), said.year, said.part, folded(said.edition), episode)


def _sample(path: Path, size: int) -> str:
    """What stands at the beginning, in the middle and at the end."""
    digest = hashlib.blake2b(str(size).encode(), digest_size=16)
    with ordinary_file(path) as handle:
        for place in (0, max(0, size // 2 - SAMPLE_BYTES // 2), max(0, size - SAMPLE_BYTES)):
            handle.seek(place)
            digest.update(handle.read(SAMPLE_BYTES))
    return digest.hexdigest()


def _digest(path: Path) -> str:
    digest = hashlib.blake2b()
    try:
        with ordinary_file(path) as handle:
            while chunk := handle.read(CHUNK_BYTES):
                digest.update(chunk)
    except (OSError, SourceMissing):
        return path_text(str(path))
    return digest.hexdigest()
