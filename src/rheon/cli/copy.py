"""``rheon copy``: finished files onto a stick, a card, a player or a folder, verified."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Annotated

import typer
from rich.progress import BarColumn, Progress, TaskProgressColumn, TextColumn

from rheon.core.encoding import Hooks
from rheon.core.encoding import Progress as Step
from rheon.core.errors import TargetError
from rheon.core.handover import Copied, CopyOrder, Volume, folder_as_volume, hand_over, kept_free
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
        look, below = _found(to)
        volume = look()
        for file in sorted(files, key=lambda one: natural_key(one.name)):
            order = CopyOrder(
                source=file,
                folder="/".join(part for part in (below, folder) if part),
                name=file.name,
                look=look,
                kept_free_bytes=kept_free(volume.total_bytes if volume else None),
            )
            _say(file, _shown(order, as_json=as_json), as_json=as_json)


def _found(to: str) -> tuple[Callable[[], Volume | None], str]:
    """How the volume is looked for, and the folder on it that ``to`` names. Raises ``TargetError``."""
    here = all_volumes()
    named = next((one for one in here if one.label.casefold() == to.casefold()), None)
    path = real_path(to)
    within = [one for one in here if path.is_relative_to(one.path)]
    volume = named or max(within, key=lambda one: len(one.path.parts), default=None)
    if volume is not None:
        wanted = volume.id
        below = "" if named else path.relative_to(volume.path).as_posix()
        return lambda: next((one for one in all_volumes() if one.id == wanted), None), below.strip(".")
    if not path.is_dir():
        raise TargetError("There is no volume and no folder called {name}.", name=to, advice="See rheon volumes.")
    return lambda: folder_as_volume(path), ""


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
