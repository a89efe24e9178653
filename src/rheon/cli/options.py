"""What ``plan`` and ``convert`` are told alike: which source and title, for what, and how."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from rheon.core.planning import Balance

SourcePath = Annotated[Path, typer.Argument(help="A disc folder, an image or a file.")]
TitleNumber = Annotated[int, typer.Option(help="The title's number.")]
Devices = Annotated[list[str], typer.Option(help="A device id, or a profile file (.json); may be given again.")]
WishedBalance = Annotated[Balance, typer.Option(help="Between small and quick, and large and fine.")]
SaidPins = Annotated[
    list[str] | None, typer.Option("--set", help="Set a decision by hand: key=value, as in rheon decisions.")
]
Angle = Annotated[int, typer.Option(help="Which angle, counted from 1.")]
OnlyChapters = Annotated[str | None, typer.Option(help="Only these chapters: 2 or 2-3.")]
ChapterFile = Annotated[
    Path | None,
    typer.Option(help="A file with chapters: a line each, CHAPTER01=, CUE, FFMETADATA, WebVTT, JSON, Matroska XML."),
]
SaidArtwork = Annotated[
    str | None, typer.Option(help="A picture for the file: a JPEG, PNG or WebP, or a moment of the title (0:12:30).")
]
FromMoment = Annotated[
    str | None, typer.Option("--from", help="Only from this moment: 90, 1:30.5, 0:01:30:12 or picture #240.")
]
UntilMoment = Annotated[str | None, typer.Option("--until", help="Only until this moment.")]
Followers = Annotated[
    list[str] | None,
    typer.Option(help="A title that follows: its number, or another source, or source#number; may be given again."),
]
