"""``rheon scan``: what is on a source."""

from __future__ import annotations

import contextlib
from dataclasses import replace
from pathlib import Path
from typing import Annotated

import typer

from rheon.core.errors import RheonError, SourceError
from rheon.core.media import Source
from rheon.core.sources import ScanProgress
from rheon.core.wording import duration_text, problem_text, sentence

from .common import read, reported
from .output import REFUSED, console, print_json
from .scan_document import refusal_document, scan_document


def scan(
    source: Annotated[Path, typer.Argument(help="A disc folder, an image, a file or a folder of files.")],
    as_json: Annotated[bool, typer.Option("--json", help="Print one JSON document.")] = False,
    analyse: Annotated[bool, typer.Option(help="Look and listen too: a few seconds for each title.")] = False,
) -> None:
    """Read a source and list its titles."""
    if as_json:
        try:
            found = read(source)
            print_json(scan_document(_looked_at(found) if analyse else found))
        except SourceError as error:
            print_json(refusal_document(error))
            raise typer.Exit(REFUSED) from error
        return
    with reported():
        found = _read(source)
        _show(_looked_at(found) if analyse else found)


def _looked_at(source: Source) -> Source:
    """The source with what pictures and sound say; titles that can't be looked at stay as they were read."""
    from rheon.core.analysis import survey_title, with_findings  # noqa: PLC0415 - loaded only where it is asked for

    titles = []
    for title in source.titles:
        survey = None
        with contextlib.suppress(RheonError):
            survey = None if title.fault else survey_title(title)
        titles.append(with_findings(title, survey))
    return replace(source, titles=tuple(titles))


def _read(path: Path) -> Source:
    from rich.progress import Progress as Bar  # noqa: PLC0415 - what prints JSON needs neither bar nor table

    with Bar(console=console(), transient=True) as bar:
        task = bar.add_task("Reading", total=None)

        def on_title(number: int, total: int) -> None:
            bar.update(task, description=f"Reading title {number} of {total}", total=total, completed=number - 1)

        return read(path, ScanProgress(on_title=on_title))


def _show(source: Source) -> None:
    from rich.table import Table  # noqa: PLC0415 - as above

    table = Table(title=f"{source.label} ({source.kind.value} {source.form.value}, {source.size_bytes / 1e6:.0f} MB)")
    for heading in ("title", "length", "MB", "chapters", "audio", "subtitles", "role", "because"):
        table.add_column(heading, justify="right" if heading in ("title", "length", "MB", "chapters") else "left")
    for title in source.titles:
        table.add_row(
            str(title.number),
            duration_text(title.duration_s),
            f"{title.size_bytes / 1e6:.0f}",
            str(len(title.chapters)),
            ", ".join(f"{track.language} {track.channels}ch" for track in title.audio),
            ", ".join(track.language for track in title.subtitles),
            title.role.value,
            "; ".join(map(sentence, title.reasons)),
        )
    console().print(table)
    for problem in source.problems:
        console().print(problem_text(problem), highlight=False)
