"""``rheon convert``: make the file, check it, name it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from pathlib import Path
from typing import Annotated

import typer
from rich.progress import BarColumn, Progress, TaskProgressColumn, TextColumn, TimeRemainingColumn

from rheon.core.delivery import Delivered, Order
from rheon.core.delivery import convert as carry_out
from rheon.core.descriptions import instead_text
from rheon.core.encoding import Forecast, Hooks, parts_in, remove_part
from rheon.core.encoding import Progress as Step
from rheon.core.errors import RheonError, TargetError
from rheon.core.planning import Balance, Plan
from rheon.core.system import is_left_over, own_token
from rheon.core.wording import fact_text, rule_name, sentence

from .choosing import Stretch, chosen, make_plan
from .common import reported
from .documents import check_document
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
from .output import console, print_line


def convert(
    source: SourcePath,
    title: TitleNumber,
    device: Devices,
    to: Annotated[Path, typer.Option(help="The folder the file goes to.")],
    balance: WishedBalance = Balance.EVEN,
    pins: SaidPins = None,
    angle: Angle = 1,
    chapters: OnlyChapters = None,
    chapter_list: ChapterFile = None,
    artwork: SaidArtwork = None,
    from_time: FromMoment = None,
    until_time: UntilMoment = None,
    join: Followers = None,
    analyse: Annotated[bool, typer.Option(help="Look and listen first, so that the plan rests on it.")] = True,
    accept_loss: Annotated[bool, typer.Option(help="Make what is there of a source whose end is missing.")] = False,
    as_json: Annotated[bool, typer.Option("--json", help="Print lines of JSON as it goes.")] = False,
) -> None:
    """Make one file of a title for one or more devices."""
    with reported(as_json=as_json, by_line=True):
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
        wanted = chosen(of, stretch, follow, analyse=analyse)
        made = make_plan(wanted, profiles, balance, pins or [])
        if made.settings is None:
            nothing = {"state": made.treatment.value, "output": None}
            _say(as_json, nothing, f"Nothing to make: {sentence(made.reason)}.")
            return
        folder = _folder(to)
        for part in parts_in(folder):
            if is_left_over(part.name):
                remove_part(part)
        order = Order(
            title=wanted.title,
            plan=made,
            devices=profiles,
            folder=folder,
            token=own_token(),
            accept_loss=accept_loss,
            made_for=" and ".join(profile.name for profile in profiles),
        )
        done = _run_json(order) if as_json else _run_shown(order)
        output = output_document(done)
        _say(
            as_json,
            {"state": "done", "output": output, **output},
            f"{done.path} ({done.size_bytes / 1e6:.1f} MB in {done.making_s:.0f} s), checked",
        )
        for notice in () if as_json else _notices(done):
            console().print(notice, highlight=False)


def output_document(done: Delivered) -> dict[str, object]:
    return {
        "path": str(done.path),
        "size_bytes": done.size_bytes,
        "making_s": round(done.making_s, 2),
        "checks": [check_document(check) for check in done.checks],
    }


def _notices(done: Delivered) -> list[str]:
    """What a person should know of a file that was kept all the same."""
    told = [result for check in done.checks[:1] for result in check.results if result.rule == "source_damage"]
    broken = [result for check in done.checks[:1] for result in check.results if not result.ok]
    said = [f"{rule_name(result.rule)}: {fact_text(result.measured, raw=True)}" for result in (*told, *broken)]
    return [*([sentence(done.told)] if done.told else []), *said]


def _folder(to: Path) -> Path:
    """The folder to write to; made where the one around it is there. Raises ``TargetError``."""
    folder = to.resolve()
    if not folder.exists() and folder.parent.is_dir():
        try:
            folder.mkdir()
        except OSError as error:
            raise TargetError(
                "The folder {folder} can't be made: {reason}.", folder=folder, reason=error.strerror
            ) from error
    return folder


def _run_json(order: Order) -> Delivered:
    forecast = _forecast(order.plan)

    def on_progress(step: Step) -> None:
        left_s = forecast.goes(step).left_s
        print_line({"state": "running", "fraction": round(step.fraction, 4), "speed": step.speed, "left_s": left_s})

    def on_instead(made: Plan, error: RheonError) -> None:
        nonlocal forecast
        forecast = _forecast(made)
        print_line({"state": "running", "instead": instead_text(made, error)})

    return carry_out(order, Hooks(on_progress=on_progress), on_instead=on_instead)


def _forecast(made: Plan) -> Forecast:
    assert made.estimate is not None, "what can be made has one"
    return Forecast.of(made.estimate)


def _run_shown(order: Order) -> Delivered:
    columns = (TextColumn("{task.description}"), BarColumn(), TaskProgressColumn(), TimeRemainingColumn())
    with Progress(*columns, console=console()) as bar:
        task = bar.add_task(order.plan.settings.file_name if order.plan.settings else "", total=1.0)
        update: Callable[[Step], None] = lambda step: bar.update(task, completed=step.fraction)  # noqa: E731

        def told(made: Plan, error: RheonError) -> None:
            bar.console.print(instead_text(made, error), highlight=False)

        return carry_out(order, Hooks(on_progress=update), on_instead=told)


def _say(as_json: bool, document: Mapping[str, object], text: str) -> None:
    if as_json:
        print_line(document)
    else:
        console().print(text, highlight=False)
