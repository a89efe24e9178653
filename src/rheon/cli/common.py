"""What the verbs share: output, exit status, and finding titles and devices."""

from __future__ import annotations

import contextlib
from collections.abc import Iterator, Sequence
from pathlib import Path

import typer

from rheon.core.errors import BadPin, NoSuchDevice, NoSuchTitle, RheonError, SourceError
from rheon.core.media import Source, Title
from rheon.core.sources import ScanProgress, read_source
from rheon.core.system import real_path, set_fence
from rheon.core.wording import problem_text

from .output import FAILED, REFUSED, USAGE, console, print_json, print_line


def exit_status(error: RheonError) -> int:
    if isinstance(error, NoSuchTitle | NoSuchDevice | BadPin):
        return USAGE
    return REFUSED if isinstance(error, SourceError) else FAILED


@contextlib.contextmanager
def reported(*, as_json: bool = False, by_line: bool = False) -> Iterator[None]:
    """Turn an error meant for a person into a sentence and an exit status; ``by_line`` for output of JSON lines."""
    try:
        yield
    except RheonError as error:
        if as_json and by_line:
            print_line({"state": "failed", "error": {"code": error.code, "message": error.message}})
        elif as_json:
            print_json({"problems": [{"code": error.code, "title": None, "message": error.message}]})
        else:
            console().print(f"[bold]rheon:[/bold] {error.message}", highlight=False, markup=True)
        raise typer.Exit(exit_status(error)) from error


def read(source: Path, progress: ScanProgress | None = None, beside: Sequence[Path] = ()) -> Source:
    """Read a source, and nothing that lies outside it and those ``beside``. Raises ``SourceError`` or ``Stopped``."""
    path = real_path(source)
    roots = tuple(_root(real_path(one)) for one in (source, *beside))
    set_fence(lambda: roots)
    return read_source(path, progress)


def _root(path: Path) -> Path:
    if path.suffix.lower() == ".mpls":  # a playlist plays what lies in the disc's other folders
        return path.parent.parent.parent
    return path if path.is_dir() else path.parent


def find_title(source: Source, number: int) -> Title:
    """Raises ``NoSuchTitle``, or ``SourceError`` where the title can't be used."""
    for title in source.titles:
        if title.number == number:
            if title.fault:
                problem = next(p for p in source.problems if p.title == number)
                raise SourceError("{problem}", problem=problem_text(problem), advice="")
            return title
    raise NoSuchTitle("{label} has no title {number}.", label=source.label, number=number)
