"""``rheon copy``: finished files onto a stick, a card, a player or a folder, verified."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Annotated

import typer
from rich.progress import BarColumn, Progress, TaskProgressColumn, TextColumn

from rheon.core.encoding import Hooks
from rheon.core.encoding import Progress as Step
from rheon.core.errors import TargetError
from rheon.core.handover import Copied, CopyOrder, Volume, folder_as_volume, hand_over
from rheon.core.naming.episodes import natural_key
from rheon.core.system import real_path
from rheon.core.wording import size_text

from .common import reported
from .output import console, print_line
from .volumes import all_volumes


def copy(
    files: Annotated[list[Path], typer.Argument(help="Finished files.")],
    to: Annotated[str, typer.Option(help="A volume by its label (see rheon volumes), or a folder.")],
    folder: Annotated[str, typer.Option(help="The folder on it, such as VIDEO.")] = "",
    as_json: Annotated[bool, typer.Option("--json", help="Print a line of JSON for each file.")] = False,
) -> None:
    """Copy files in the order of their names, with subtitles and artwork beside them; read each back from the device
    and only then name it. What an earlier try had written counts.
    """
    with reported(as_json=as_json, by_line=True):
        look = _looked_for(to)
        for file in sorted(files, key=lambda one: natural_key(one.name)):
            order = CopyOrder(
                source=file,
                folder=folder,
                name=file.name,
                look=look,
            )
            _say(file, _shown(order, as_json=as_json), as_json=as_json)


def _looked_for(to: str) -> Callable[[], Volume | None]:
    """How the place for the files is found again: a volume by its label, or a folder, on a volume or of this machine.

    Raises ``TargetError`` where there is neither.
    """
    here = all_volumes()
    path = real_path(to)
    named = next((one for one in here if one.label.casefold() == to.casefold()), None)
    around = max(
        (one for one in here if path.is_relative_to(one.path)), key=lambda one: len(one.path.parts), default=None
    )
    if named is None and not path.is_dir():
        raise TargetError("There is no volume and no folder called {name}.", name=to, advice="See rheon volumes.")
    volume = named or around
    if volume is None:
        return lambda: folder_as_volume(path)

    def look() -> Volume | None:
        now = next((one for one in all_volumes() if one.id == volume.id), None)
        return now if now is None or named else replace(now, path=path)

    return look


def _shown(order: CopyOrder, *, as_json: bool) -> Copied:
    if as_json:
        return hand_over(order)
    columns = (TextColumn("{task.description}"), BarColumn(), TaskProgressColumn())
    with Progress(*columns, console=console(), transient=True) as bar:
        task = bar.add_task(order.name, total=1.0)

        def on_progress(step: Step) -> None:
            bar.update(task, completed=step.fraction)

        return hand_over(order, Hooks(on_progress=on_progress))


def _say(file: Path, copied: Copied, *, as_json: bool) -> None:
    if as_json:
        facts = {"path": str(copied.path), "size_bytes": copied.size_bytes, "was_there": copied.was_there}
        print_line({"source": str(file), **facts, "resumed_bytes": copied.resumed_bytes})
        return
    how = "is there already" if copied.was_there else f"copied and verified, {size_text(copied.size_bytes)}"
    console().print(f"{copied.path}: {how}", highlight=False, markup=False)
