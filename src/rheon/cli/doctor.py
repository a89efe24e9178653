"""``rheon doctor``: whether everything is well."""

from __future__ import annotations

from dataclasses import asdict
from typing import Annotated

import typer

from rheon.server.care.doctor import State, look

from .installation import loaded, told, with_flags
from .output import FAILED, print_json, standard

MARKS = {State.GOOD: "[green]good[/green]", State.WEAK: "[yellow]weak[/yellow]", State.BAD: "[red]bad [/red]"}


@with_flags
def doctor(
    flags: dict[str, object], as_json: Annotated[bool, typer.Option("--json", help="One JSON document.")] = False
) -> None:
    """Look whether everything is well, and say what to do where it is not. Exit status 4 where something is bad."""
    with told():
        findings = list(look(loaded(flags)))
    if as_json:
        print_json([asdict(finding) for finding in findings])
    else:
        out = standard()
        for found in findings:
            out.print(f"{MARKS[found.state]}  {found.about:<11}{found.text}", highlight=False, soft_wrap=True)
            if found.remedy:
                out.print(f"                 → {found.remedy}", highlight=False, soft_wrap=True)
    if any(finding.state is State.BAD for finding in findings):
        raise typer.Exit(FAILED)
