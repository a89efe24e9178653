"""Reading text subtitles and writing them as one plain kind. Pure: bytes in, text out."""

from __future__ import annotations

import codecs
import re
from dataclasses import dataclass

from ..errors import NotASource

LARGEST_BYTES = 8 << 20
MARKS = (
    (codecs.BOM_UTF8, "utf-8-sig"),
    (codecs.BOM_UTF32_LE, "utf-32"),
    (codecs.BOM_UTF32_BE, "utf-32"),
    (codecs.BOM_UTF16_LE, "utf-16"),
    (codecs.BOM_UTF16_BE, "utf-16"),
)
WESTERN = "cp1252"
WINDOWS_TWINS = {"iso8859_7": "cp1253", "iso8859_9": "cp1254", "latin_1": "cp1252", "iso8859_15": "cp1252"}
"""Subtitles are made on Windows; its code pages hold the same letters and a few more."""


@dataclass(frozen=True, slots=True, kw_only=True)
class TimedLine:
    """One line of text, from when to when in seconds."""

    start_s: float
    end_s: float
    text: str


@dataclass(frozen=True, slots=True, kw_only=True)
class SubtitleText:
    """A subtitle file: its encoding, and its lines in order of time."""

    encoding: str
    lines: tuple[TimedLine, ...]


def decode_text(data: bytes) -> tuple[str, str]:
    """(text, encoding): by its mark, else as UTF-8, UTF-16 by its zeros, else by what the letters make likely."""
    for mark, encoding in MARKS:
        if data.startswith(mark):
            return data.decode(encoding, errors="replace"), encoding
    try:
        return data.decode("utf-8"), "utf-8"
    except UnicodeDecodeError:
        pass
    if (wide := _wide(data)) is not None:
        return data.decode(wide, errors="replace"), wide
    from charset_normalizer import from_bytes  # noqa: PLC0415 - a scan without such subtitles needs none of it

    best = from_bytes(data, cp_isolation=None, threshold=0.3).best()
    encoding = best.encoding if best is not None else WESTERN
    # few letters beyond ASCII decide little; then the usual western encoding is likelier than a rare one
    if best is not None and _letters(data) < 8 and not _reads_well(str(best)):
        encoding = WESTERN
    if encoding in ("latin_1", "iso8859_1", "cp1250", "cp1257", "iso8859_15") and _reads_well(_as(data, WESTERN)):
        encoding = WESTERN
    encoding = WINDOWS_TWINS.get(encoding, encoding)
    return _as(data, encoding), encoding


def read_subtitles(data: bytes) -> SubtitleText:
    """Read SubRip, SubStation or WebVTT. Broken numbering and overlaps are put in order.

    Raises ``NotASource`` where the bytes are no subtitles, or far too many.
    """
    if len(data) > LARGEST_BYTES:
        raise NotASource("This subtitle file is too large to be one.")
    import pysubs2  # noqa: PLC0415 - a scan without such subtitles needs none of it

    text, encoding = decode_text(data)
    try:
        parsed = pysubs2.SSAFile.from_string(text.replace("\r\n", "\n").replace("\r", "\n"))
    except Exception as error:  # the library raises its own and others on text that only looks like subtitles
        raise NotASource("This file holds no text subtitles that Rheon can read.") from error
    lines = [
        TimedLine(start_s=event.start / 1000, end_s=event.end / 1000, text=text)
        for event in parsed.events
        if not event.is_comment and event.end > event.start >= 0 and (text := _first_block(event.plaintext))
    ]
    if not lines:
        raise NotASource("This file holds no text subtitles that Rheon can read.")
    return SubtitleText(encoding=encoding, lines=tuple(sorted(lines, key=lambda line: (line.start_s, line.end_s))))


def _first_block(text: str) -> str:
    """The text up to an empty line: what comes after it is the next line's broken number."""
    return re.split(r"\n[ \t]*\n", text.strip())[0].strip()


def to_subrip(text: SubtitleText) -> str:
    """The lines as SubRip, numbered anew."""
    blocks = [
        f"{number}\n{_timecode(line.start_s)} --> {_timecode(line.end_s)}\n{line.text}\n"
        for number, line in enumerate(text.lines, start=1)
    ]
    return "\n".join(blocks)


def _timecode(seconds: float) -> str:
    whole, thousandths = divmod(round(seconds * 1000), 1000)
    return f"{whole // 3600:02}:{whole // 60 % 60:02}:{whole % 60:02},{thousandths:03}"


def _wide(data: bytes) -> str | None:
    """UTF-16 without a mark: every other byte of western text is zero."""
    head = data[:4096]
    even, odd = head[::2].count(0), head[1::2].count(0)
    if max(even, odd) * 4 < len(head):
        return None
    return "utf-16-le" if odd > even else "utf-16-be"


def _letters(data: bytes) -> int:
    return sum(byte >= 0x80 for byte in data)


def _as(data: bytes, encoding: str) -> str:
    return data.decode(encoding, errors="replace")


def _reads_well(text: str) -> bool:
    """Whether the letters beyond ASCII are ones that western languages put beside plain letters."""
    strange = re.findall(r"[^\x00-\x7f]", text)
    usual = re.findall(r"[À-ÖØ-öø-ÿŒœŠšŽžŸ¿¡«»‘’“”–—…€°ºª]", text)
    return bool(strange) and len(usual) >= len(strange) * 0.9
