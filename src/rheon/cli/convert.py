"""``rheon convert``: make the file, check it, name it."""

from __future__ import annotations

import json
import sys
import uuid
from collections.abc import Callable
from pathlib import Path
from typing import Annotated

import typer
from rich.progress import BarColumn, Progress, TaskProgressColumn, TextColumn, TimeRemainingColumn

from rheon.core.delivery import Delivered, Order
from rheon.core.delivery import convert as carry_out
from rheon.core.encoding import Hooks
from rheon.core.encoding import Progress as Step
from rheon.core.planning import Balance
from rheon.core.sources import read_source

from .common import console, find_device, find_title, make_plan, reported
from .documents import check_document


def convert(
    source: Annotated[Path, typer.Argument(help="A disc folder, an image or a file.")],
    title: Annotated[int, typer.Option(help="The title's number.")],
    device: Annotated[list[str], typer.Option(help="A device id, or a profile file (.json); may be given again.")],
    to: Annotated[Path, typer.Option(help="The folder the file goes to.")],
    balance: Annotated[Balance, typer.Option(help="Between small and quick, and large and fine.")] = Balance.EVEN,
    pins: Annotated[list[str] | None, typer.Option("--set", help="Set a decision by hand: key=value.")] = None,
    as_json: Annotated[bool, typer.Option("--json", help="Print lines of JSON as it goes.")] = False,
) -> None:
    """Make one file of a title for one or more devices."""
    with reported(as_json=as_json):
        profiles = [find_device(name) for name in device]
        read = read_source(source)
        made = make_plan(read, title, profiles, balance, pins or [])
        order = Order(
            title=find_title(read, title), plan=made, devices=profiles, folder=to.resolve(), token=uuid.uuid4().hex
        )
        if made.settings is None:
            _say(as_json, {"state": made.treatment.value}, f"Nothing to make: the title {made.treatment.value}.")
            return
        done = _run_json(order) if as_json else _run_shown(order)
        _say(
            as_json,
            {
                "state": "done",
                "path": str(done.path),
                "size_bytes": done.size_bytes,
                "making_s": round(done.making_s, 2),
                "checks": [check_document(check) for check in done.checks],
            },
            f"{done.path} ({done.size_bytes / 1e6:.1f} MB in {done.making_s:.0f} s), checked",
        )


def _run_json(order: Order) -> Delivered:
    def on_progress(step: Step) -> None:
        _line({"state": "running", "fraction": round(step.fraction, 4), "speed": step.speed, "left_s": step.left_s})

    return carry_out(order, Hooks(on_progress=on_progress))


def _run_shown(order: Order) -> Delivered:
    columns = (TextColumn("{task.description}"), BarColumn(), TaskProgressColumn(), TimeRemainingColumn())
    with Progress(*columns, console=console) as bar:
        task = bar.add_task(order.plan.settings.file_name if order.plan.settings else "", total=1.0)
        update: Callable[[Step], None] = lambda step: bar.update(task, completed=step.fraction)  # noqa: E731
        return carry_out(order, Hooks(on_progress=update))


def _say(as_json: bool, document: dict[str, object], text: str) -> None:
    if as_json:
        _line(document)
    else:
        console.print(text, highlight=False)


def _line(document: dict[str, object]) -> None:
    sys.stdout.write(json.dumps(document, ensure_ascii=False) + "\n")
    sys.stdout.flush()
