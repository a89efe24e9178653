"""``rheon plan``: how one file would be made, and why."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer
from rich.table import Table

from rheon.core.planning import Balance, Plan
from rheon.core.wording import consequence, duration_text, sentence

from .choosing import Stretch, chosen, make_plan
from .common import reported
from .documents import plan_document
from .finding_devices import find_device
from .joining import JOIN_HELP, read_with, said_parts
from .output import console, print_json


def plan(
    source: Annotated[Path, typer.Argument(help="A disc folder, an image or a file.")],
    title: Annotated[int, typer.Option(help="The title's number.")],
    device: Annotated[list[str], typer.Option(help="A device id, or a profile file (.json); may be given again.")],
    balance: Annotated[Balance, typer.Option(help="Between small and quick, and large and fine.")] = Balance.EVEN,
    pins: Annotated[
        list[str] | None, typer.Option("--set", help="Set a decision by hand: key=value, as in rheon decisions.")
    ] = None,
    angle: Annotated[int, typer.Option(help="Which angle, counted from 1.")] = 1,
    chapters: Annotated[str | None, typer.Option(help="Only these chapters: 2 or 2-3.")] = None,
    from_time: Annotated[
        str | None, typer.Option("--from", help="Only from this moment: 90, 1:30.5, 0:01:30:12 or picture #240.")
    ] = None,
    until_time: Annotated[str | None, typer.Option("--until", help="Only until this moment.")] = None,
    join: Annotated[list[str] | None, typer.Option(help=JOIN_HELP)] = None,
    analyse: Annotated[bool, typer.Option(help="Look and listen first, as convert does.")] = False,
    as_json: Annotated[bool, typer.Option("--json", help="Print one JSON document.")] = False,
) -> None:
    """Plan one file of a title for one or more devices."""
    with reported(as_json=as_json):
        profiles = [find_device(name) for name in device]
        stretch = Stretch(title=title, angle=angle, chapters=chapters, from_time=from_time, until_time=until_time)
        of, follow = read_with(source, said_parts(join or []))
        made = make_plan(chosen(of, stretch, follow, analyse=analyse), profiles, balance, pins or [])
        if as_json:
            print_json(plan_document(made))
        else:
            show_plan(made)


def show_plan(made: Plan) -> None:
    console().print(f"[bold]{made.treatment.value}[/bold]: {sentence(made.reason)}", highlight=False)
    table = Table(show_header=False, box=None)
    for decision in made.decisions:
        table.add_row(decision.key, decision.text, sentence(decision.reason))
    console().print(table)
    for breach in made.breaches:
        what = consequence(breach.rule, unsure=False)
        console().print(f"[bold]{breach.device_name}[/bold]: {what}", highlight=False)
    if made.estimate:
        size, time_s = made.estimate.size_bytes / 1e6, made.estimate.time_s
        console().print(f"about {size:.0f} MB, {duration_text(time_s)} to make", highlight=False)
