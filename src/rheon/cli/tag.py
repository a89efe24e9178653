"""``rheon tag``: what is written in a finished file for people, and other tags in their place."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from rheon.core.analysis import cover_jpeg
from rheon.core.encoding import part_path
from rheon.core.errors import BadPin, SourceMissing, TagsRefused
from rheon.core.media import FileData, Tags, Title
from rheon.core.media.documents import dump
from rheon.core.media.tags import TAG_FIELDS, tags_of
from rheon.core.planning.decisions.file.tags import read_tag
from rheon.core.system import own_token
from rheon.core.tagging import retag, tags_of_file

from .choosing import with_artwork
from .common import read, reported
from .options import SaidArtwork, SaidPins
from .output import console, print_json

NO_ARTWORK = "none"


def tag(
    file: Annotated[Path, typer.Argument(help="A media file.")],
    pins: SaidPins = None,
    artwork: SaidArtwork = None,
    as_json: Annotated[bool, typer.Option("--json", help="Print one JSON document.")] = False,
) -> None:
    """Say what is written in a file, after writing what is set (file.title=…, an empty value takes one out) and the
    picture (none takes it out). Its streams stay as they are, and the file is whole at every moment.
    """
    with reported(as_json=as_json):
        if not file.is_file():
            raise SourceMissing("There is no file {file}.", file=file)
        picture = Path(artwork) if artwork and Path(artwork).is_file() else None
        (title,) = read(file, beside=[picture] if picture else ()).titles
        tags = _changed(title, file, pins or [])
        if pins or artwork is not None:
            _write(title, tags, _cover(title, artwork))
    said = {name: value for name, value in dump(tags).items() if value not in ("", None)}
    if as_json:
        print_json({"path": str(file.resolve()), "tags": said})
        return
    for name, value in said.items():
        console().print(f"{name}: {value}", highlight=False, markup=False)


def _changed(title: Title, path: Path, pins: list[str]) -> Tags:
    """What is written in a file, with what is set. Raises ``BadPin``."""
    values: dict[str, object] = {**tags_of_file(title)}
    for pin in pins:
        key, sign, value = pin.partition("=")
        tag_name = key.strip().removeprefix("file.")
        if not sign or tag_name not in TAG_FIELDS:
            raise BadPin(
                "“{pin}” sets no tag; say file.title=… or another of {tags}.", pin=pin, tags=", ".join(TAG_FIELDS)
            )
        values[tag_name] = read_tag(tag_name, value.strip())
    return tags_of(values).or_called(path.stem)


def _cover(title: Title, artwork: str | None) -> bytes | None:
    """What is put in; empty to take out what is in it, ``None`` to leave it.

    Raises ``BadPicture`` or ``EngineError``.
    """
    if artwork is None or artwork == NO_ARTWORK:
        return None if artwork is None else b""
    cover = with_artwork(title, artwork).cover
    return cover_jpeg(title, cover) if cover else None


def _write(title: Title, tags: Tags, cover: bytes | None) -> None:
    """Raises ``TagsRefused``."""
    assert isinstance(title.data, FileData)
    path = Path(title.data.path)
    try:
        retag(path, part_path(path.parent, own_token()), title.container, tags, cover)
    except OSError as error:
        raise TagsRefused("{file} can't be written: {why}.", file=path.name, why=error.strerror) from error
