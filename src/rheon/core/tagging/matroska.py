"""Tags of Matroska and WebM (RFC 9559, 5.1.8): their targets say what a value is about, series, season or film."""

from __future__ import annotations

import hashlib
from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path
from typing import BinaryIO

from ..errors import TagsRefused
from ..media import ContentKind, Tags
from . import ebml
from .ebml import Element

SEGMENT, SEEK_HEAD, SEEK, SEEK_ID, SEEK_AT = 0x18538067, 0x114D9B74, 0x4DBB, 0x53AB, 0x53AC
INFO, INFO_TITLE = 0x1549A966, 0x7BA9
TAGS, TAG, TARGETS, LEVEL, LEVEL_NAME = 0x1254C367, 0x7373, 0x63C0, 0x68CA, 0x63CA
SIMPLE, NAME, STRING, LANGUAGE = 0x67C8, 0x45A3, 0x4487, 0x447A
OF_A_PIECE = frozenset({0x63C5, 0x63C9, 0x63C4, 0x63C6})
"""Targets that name a track, an edition, a chapter or an attachment."""
ATTACHMENTS, ATTACHED_FILE, FILE_NAME, FILE_TYPE, FILE_DATA, FILE_NUMBER = (
    0x1941A469, 0x61A7, 0x466E, 0x4660, 0x465C, 0x46AE,
)  # fmt: skip
COVER_NAME = "cover.jpg"
SHOW, SEASON, WORK, PIECE = 70, 60, 50, 30
"""Target levels (RFC 9559, 5.1.8.1.1.1): collection, season, film or episode, track of an album."""
LEVEL_NAMES = {SHOW: "COLLECTION", SEASON: "SEASON", WORK: "MOVIE", PIECE: "TRACK"}
SEEK_AT_BYTES = 8

Write = tuple[int, bytes]
"""From which byte of the file on what is written."""


def write_matroska(path: Path, tags: Tags, cover: bytes | None) -> None:
    """Put tags, and a picture, into a file in place of those that were about all of it.

    Raises ``TagsRefused`` or ``OSError``.
    """
    with path.open("r+b") as file:
        end = file.seek(0, 2)
        header = ebml.read_element(file, 0, end)
        segment = ebml.read_element(file, header.end, end)
        if segment.id != SEGMENT or segment.end != end:
            raise TagsRefused("This file can't be tagged: something lies behind what it says it holds.")
        parts = list(ebml.children(file, segment))
        kept = [piece for part in parts if part.id == TAGS for piece in _of_pieces(file, part)]
        new = {TAGS: ebml.master(TAGS, *kept, *_tags(tags))}
        if info := next((part for part in parts if part.id == INFO), None):
            new[INFO] = _info(file, info, tags.shown_title)
        if cover is not None:
            attached = [part for part in parts if part.id == ATTACHMENTS]
            files = [*_other_files(file, attached), *([_attached(cover)] if cover else [])]
            if files or attached:
                new[ATTACHMENTS] = ebml.master(ATTACHMENTS, *files) if files else b""
        # all of it is worked out before anything is written
        for at, data in list(_placed(file, segment, parts, new)):
            file.seek(at)
            file.write(data)


def _attached(cover: bytes) -> bytes:
    """The picture under the name by which players know it (matroska.org, "Cover Art Guidelines")."""
    # the same for the same picture
    number = int.from_bytes(hashlib.sha256(cover).digest()[:8], "big") | 1
    said = (ebml.text(FILE_NAME, COVER_NAME), ebml.text(FILE_TYPE, "image/jpeg"))
    return ebml.master(ATTACHED_FILE, *said, ebml.binary(FILE_DATA, cover), ebml.unsigned(FILE_NUMBER, number))


def _other_files(file: BinaryIO, attached: Sequence[Element]) -> Iterator[bytes]:
    """What is attached beside a picture: the letters of subtitles."""
    for one in (one for part in attached for one in ebml.children(file, part) if one.id == ATTACHED_FILE):
        names = [ebml.content(file, field) for field in ebml.children(file, one) if field.id == FILE_NAME]
        if not any(name.startswith(b"cover.") for name in names):
            yield ebml.whole(file, one)


def _of_pieces(file: BinaryIO, old: Element) -> Iterator[bytes]:
    """Tags that are about a track or a chapter: lengths and rates, which players read."""
    for tag in ebml.children(file, old):
        for part in ebml.children(file, tag) if tag.id == TAG else ():
            if part.id == TARGETS and any(target.id in OF_A_PIECE for target in ebml.children(file, part)):
                yield ebml.whole(file, tag)


def levels(tags: Tags) -> dict[int, list[tuple[str, str]]]:
    """Each value under its official name, by the level of what it is about."""
    said: dict[int, list[tuple[str, str]]] = {}

    def add(level: int, name: str, value: object) -> None:
        if value not in (None, ""):
            said.setdefault(level, []).append((name, str(value)))

    of_series = tags.kind is ContentKind.EPISODE
    own = PIECE if tags.kind is ContentKind.SOUND else WORK
    if of_series or tags.show:
        add(SHOW, "TITLE", tags.show)
        add(SEASON, "PART_NUMBER", tags.season)
    add(own, "TITLE", tags.shown_title)
    add(own, "PART_NUMBER", tags.episode if of_series else tags.part)
    add(own, "DATE_RELEASED", tags.year)
    add(own, "CONTENT_TYPE", {ContentKind.SOUND: "Music"}.get(tags.kind, tags.kind.value.capitalize()))
    add(own, "GENRE", tags.genre)
    add(own, "DIRECTOR", tags.director)
    # all names in one: of several tags of a name, many readers show the last
    add(own, "ACTOR", tags.cast)
    add(own, "ARTIST", tags.artist)
    add(own, "DESCRIPTION", tags.description)
    add(own, "COMMENT", tags.comment)
    return said


def _tags(tags: Tags) -> Iterator[bytes]:
    for level, said in sorted(levels(tags).items(), reverse=True):
        name = "EPISODE" if level == WORK and tags.kind is ContentKind.EPISODE else LEVEL_NAMES[level]
        targets = ebml.master(TARGETS, ebml.unsigned(LEVEL, level), ebml.text(LEVEL_NAME, name))
        yield ebml.master(TAG, targets, *(_simple(key, value) for key, value in said))


def _simple(name: str, value: str) -> bytes:
    return ebml.master(SIMPLE, ebml.text(NAME, name), ebml.text(LANGUAGE, "und"), ebml.text(STRING, value))


def _info(file: BinaryIO, old: Element, title: str) -> bytes:
    """The segment's facts with another title; what was summed up about them before does not hold any more."""
    left_out = (INFO_TITLE, ebml.CRC, ebml.VOID)
    kept = [ebml.whole(file, one) for one in ebml.children(file, old) if one.id not in left_out]
    return ebml.master(INFO, *kept, *([ebml.text(INFO_TITLE, title)] if title else []))


def _placed(file: BinaryIO, segment: Element, parts: list[Element], new: Mapping[int, bytes]) -> Iterator[Write]:
    """Elements where the old ones were if there is room, else behind all others; nothing else is moved.

    Raises ``TagsRefused``.
    """
    moved: dict[int, int] = {}
    end = segment.end
    for element, data in new.items():
        old = [part for part in parts if part.id == element]
        filled = _filling(data, _with_void(parts, old[0])) if old else None
        if filled is not None:
            yield old[0].at, filled
            emptied = old[1:]
        else:
            moved[element] = end - segment.data_at
            yield end, data
            end += len(data)
            emptied = old
        yield from ((part.at, ebml.void(part.end - part.at)) for part in emptied)
    if moved:
        yield _pointing(file, parts, moved)
        width = segment.head - len(ebml.id_bytes(SEGMENT))
        yield segment.data_at - width, ebml.size_bytes(end - segment.data_at, width)


def _filling(data: bytes, room: int) -> bytes | None:
    """An element with nothing behind it up to the end of its room; ``None`` where it does not fit."""
    left = room - len(data)
    return data + (ebml.void(left) if left else b"") if left == 0 or left >= 2 else None


def _with_void(parts: list[Element], part: Element) -> int:
    """Bytes from where a part begins to what has to stay behind it."""
    end = part.end
    for other in parts[parts.index(part) + 1 :]:
        if other.id != ebml.VOID:
            break
        end = other.end
    return end - part.at


def _pointing(file: BinaryIO, parts: list[Element], moved: Mapping[int, int]) -> Write:
    """Where players are told to look for what was moved. Raises ``TagsRefused`` where there is no room to tell."""
    head = next((part for part in parts if part.id == SEEK_HEAD), None)
    if head is None:
        raise TagsRefused("This file can't be tagged: it does not say where its parts lie.")
    seeks = (_seek(element, at) for element, at in {**_seeks(file, head), **moved}.items())
    filled = _filling(ebml.master(SEEK_HEAD, *seeks), _with_void(parts, head))
    if filled is None:
        raise TagsRefused("This file can't be tagged: it has no room to say where its tags lie.")
    return head.at, filled


def _seek(element: int, at: int) -> bytes:
    said = at.to_bytes(SEEK_AT_BYTES, "big")
    return ebml.master(SEEK, ebml.binary(SEEK_ID, ebml.id_bytes(element)), ebml.binary(SEEK_AT, said))


def _seeks(file: BinaryIO, head: Element) -> dict[int, int]:
    found = {}
    for seek in ebml.children(file, head):
        if seek.id == SEEK:
            said = {one.id: int.from_bytes(ebml.content(file, one), "big") for one in ebml.children(file, seek)}
            found[said[SEEK_ID]] = said[SEEK_AT]
    return found
