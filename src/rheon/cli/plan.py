"""``rheon plan``: how one file would be made, and why."""

from __future__ import annotations

from typing import Annotated

import typer
from rich.table import Table

from rheon.core.planning import Balance, Plan
from rheon.core.wording import consequence, duration_text, sentence

from .choosing import Stretch, chosen, make_plan
from .common import reported
from .documents import plan_document
from .finding_devices import find_device
from .joining import read_with, said_parts
from .options import (
    Angle,
    ChapterFile,
    Devices,
    Followers,
    FromMoment,
    OnlyChapters,
    SaidArtwork,
    SaidPins,
    SourcePath,
    TitleNumber,
    UntilMoment,
    WishedBalance,
)
from .output import console, print_json


def plan(
    source: SourcePath,
    title: TitleNumber,
    device: Devices,
    balance: WishedBalance = Balance.EVEN,
    pins: SaidPins = None,
    angle: Angle = 1,
    chapters: OnlyChapters = None,
    chapter_list: ChapterFile = None,
    artwork: SaidArtwork = None,
    from_time: FromMoment = None,
    until_time: UntilMoment = None,
    join: Followers = None,
    analyse: Annotated[bool, typer.Option(help="Look and listen first, as convert does.")] = False,
    as_json: Annotated[bool, typer.Option("--json", help="Print one JSON document.")] = False,
) -> None:
    """Plan one file of a title for one or more devices."""
    with reported(as_json=as_json):
        profiles = [find_device(name) for name in device]
        stretch = Stretch(
            title=title,
            angle=angle,
            chapter_list=chapter_list,
            artwork=artwork,
            chapters=chapters,
            from_time=from_time,
            until_time=until_time,
        )
        of, follow = read_with(source, said_parts(join or []), artwork)
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
