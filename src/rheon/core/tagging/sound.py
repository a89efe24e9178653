"""Tags of sound files: ID3 version 2.4 with a version 1 for old players, and Vorbis comments; through mutagen."""

from __future__ import annotations

import base64
import io
from pathlib import Path
from typing import Any

import mutagen
from mutagen import id3
from mutagen.flac import FLAC, Picture
from mutagen.id3._tags import save_frame
from mutagen.mp3 import MP3
from PIL import Image

from ..errors import TagsRefused
from ..media import Tags
from ..media.tags import dated, shortened

UTF_8 = id3.Encoding.UTF8
WITH_ID3V1 = 2
COMMENTS = {
    "TITLE": "shown_title",
    "ARTIST": "artist",
    "SHOW": "show",
    "SEASON": "season",
    "EPISODE": "episode",
    "PART": "part",
    "DATE": "year",
    "GENRE": "genre",
    "DIRECTOR": "director",
    "ACTOR": "cast",
    "DESCRIPTION": "description",
    "COMMENT": "comment",
}
"""Vorbis comments; those of the recommended minimal set where it has one."""
ALBUM = "TALB"
FRAMES = {"TIT2": "shown_title", "TPE1": "artist", "TCON": "genre", "TDRC": "year", ALBUM: "show"}
"""ID3 frames of text (ID3v2.4, 4.2)."""
CHAPTER, ATTACHED, PICTURE = "CHAP", "APIC", "METADATA_BLOCK_PICTURE"
FRONT, JPEG = id3.PictureType.COVER_FRONT, "image/jpeg"
LONGEST_CHAPTER_NAME = 125
"""Bytes: many readers take the size of a frame inside a chapter for a plain number, which differs from 128 on."""


class _InOrder(id3.ID3):
    """Chapters stand in the order of their moments, as readers list them; the library puts the shortest first."""

    def _write(self, config: Any) -> bytearray:
        own: Any = self
        chapters = sorted(own.getall(CHAPTER), key=lambda chapter: chapter.start_time)
        own.delall(CHAPTER)
        written: bytearray = super()._write(config)  # type: ignore[no-untyped-call]
        own.setall(CHAPTER, chapters)
        return written + b"".join(save_frame(chapter, config=config) for chapter in chapters)  # type: ignore[no-untyped-call]


def write_comments(path: Path, tags: Tags, cover: bytes | None) -> None:
    """Vorbis comments of FLAC and Ogg. Raises ``TagsRefused``, ``mutagen.MutagenError`` or ``OSError``."""
    file: Any = mutagen.File(path)
    if file is None:
        raise TagsRefused("This file can't be tagged: it is not what its name says.")
    if file.tags is None:
        file.add_tags()
    for comment, name in COMMENTS.items():
        if value := _value(tags, name, (file.tags.get(comment) or [""])[0]):
            file.tags[comment] = [value]
        elif comment in file.tags:
            del file.tags[comment]
    if cover is not None:
        _put_picture(file, cover)
    file.save()


def read_description(path: Path) -> str:
    """The description of FLAC and Ogg, which other readers tell as a comment. Raises ``TagsRefused``."""
    try:
        file: Any = mutagen.File(path)
    except mutagen.MutagenError as error:
        raise TagsRefused("This file can't be tagged: {said}", said=str(error)) from error
    return str(file.tags["DESCRIPTION"][0]) if file is not None and file.tags and "DESCRIPTION" in file.tags else ""


def _value(tags: Tags, name: str, before: object) -> str:
    value = getattr(tags, name)
    return "" if value in (None, "") else dated(value, before) if name == "year" else str(value)


def _put_picture(file: Any, cover: bytes) -> None:
    """FLAC has a block for pictures; elsewhere a comment holds such a block (xiph.org, "VorbisComment", cover art)."""
    pictures = [_picture(cover)] if cover else []
    if isinstance(file, FLAC):
        file.clear_pictures()  # type: ignore[no-untyped-call]
        for picture in pictures:
            file.add_picture(picture)  # type: ignore[no-untyped-call]
    else:
        file.tags[PICTURE] = [base64.b64encode(picture.write()).decode() for picture in pictures]


def _picture(cover: bytes) -> Any:
    picture: Any = Picture()  # type: ignore[no-untyped-call]
    picture.type, picture.mime, picture.data = FRONT, JPEG, cover
    picture.width, picture.height = Image.open(io.BytesIO(cover)).size
    picture.depth = 24
    return picture


def write_id3(path: Path, tags: Tags, cover: bytes | None) -> None:
    """Raises ``mutagen.MutagenError`` or ``OSError``."""
    file: Any = MP3(path, ID3=_InOrder)  # type: ignore[no-untyped-call]
    if file.tags is None:
        file.add_tags()
    kept = file.tags
    for frame, name in FRAMES.items():
        if value := _value(tags, name, kept.get(frame, "")):
            kept.setall(frame, [_frame(frame, text=[value])])
        elif frame != ALBUM:
            kept.delall(frame)
    for frame in ("COMM", "TXXX:DIRECTOR"):
        kept.delall(frame)
    if said := tags.comment or tags.description:
        kept.add(_frame("COMM", lang="und", desc="", text=[said]))
    if tags.director:
        kept.add(_frame("TXXX", desc="DIRECTOR", text=[tags.director]))
    if cover is not None:
        kept.delall(ATTACHED)
    if cover:
        kept.add(_frame(ATTACHED, mime=JPEG, type=FRONT, desc="", data=cover))
    for chapter in kept.getall(CHAPTER):
        for name in chapter.sub_frames.getall("TIT2"):
            name.encoding, name.text = UTF_8, [shortened(text, LONGEST_CHAPTER_NAME) for text in name.text]
    file.save(v1=WITH_ID3V1, v2_version=4)


def _frame(name: str, **said: object) -> Any:
    return getattr(id3, name)(encoding=UTF_8, **said)
