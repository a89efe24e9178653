"""The forms of lists that are lines of text, and JSON. Each reader gives ``None`` where a text is in another form."""

from __future__ import annotations

import json
import re
from collections.abc import Mapping
from fractions import Fraction

from ..errors import BadChapters
from .entries import Listed, listed
from .times import CLOCK, MOST_S, clock_s

CUE_FRAMES = 75
"""Frames of a second in a CUE sheet, those of a compact disc."""
PAIR = re.compile(r"CHAPTER(\d{1,3})(NAME)?\s*=\s*(.*)", re.IGNORECASE)
COUNTED = re.compile(r"(?:(?:chapter|track|scene)\s*)?#?\d{1,3}\s*[.):\-–—]\s+", re.IGNORECASE)
BULLET = re.compile(r"^[-*•–—]\s+")
BETWEEN = " \t-–—|,;"
LEADING = re.compile(rf"[\[(]?({CLOCK})[\])]?(?=[\s\-–—|,;]|$)")
TRAILING = re.compile(rf"(?:^|(?<=[\s\-–—|,;(\[]))({CLOCK})[\])]?$")
START_KEYS, NAME_KEYS = ("start_s", "start_time", "start", "time"), ("name", "title")


def pairs(text: str) -> list[Listed] | None:
    """``CHAPTER01=00:00:00.000`` and ``CHAPTER01NAME=…``, as tools of Ogg media write them. Raises ``BadChapters``."""
    starts: dict[int, float] = {}
    names: dict[int, str] = {}
    for line in (line.strip() for line in text.splitlines()):
        if not line:
            continue
        found = PAIR.fullmatch(line)
        if found is None:
            if starts or names:
                raise BadChapters("“{line}” is no line of such a list.", line=line[:60])
            return None
        number = int(found[1])
        if found[2]:
            names[number] = found[3]
        elif (start_s := clock_s(found[3])) is not None:
            starts[number] = start_s
        else:
            raise BadChapters("“{said}” is no moment; one is 0:12:30.5.", said=found[3][:60])
    return [listed(names.get(number), start_s) for number, start_s in sorted(starts.items())] or None


def cue_sheet(text: str) -> list[Listed] | None:
    """The tracks of a CUE sheet: their titles, and where they begin (``INDEX 01 mm:ss:ff``). Raises ``BadChapters``."""
    if not re.search(r"^\s*TRACK\s+\d+\s+\w+", text, re.MULTILINE | re.IGNORECASE):
        return None
    found: list[tuple[str, float | None]] = []
    for line in (line.strip() for line in text.splitlines()):
        word, _, said = line.partition(" ")
        if word.upper() == "TRACK":
            found.append(("", None))
        elif word.upper() == "TITLE" and found:
            found[-1] = (said.strip().strip('"'), found[-1][1])
        elif word.upper() == "INDEX" and found and said.split()[:1] in (["01"], ["1"]):
            found[-1] = (found[-1][0], _cue_s(said.split()[-1]))
    return [listed(name, start_s) for name, start_s in found]


def _cue_s(said: str) -> float:
    found = re.fullmatch(r"(\d{1,4}):([0-5]?\d):([0-7]?\d)", said)
    if found is None or int(found[3]) >= CUE_FRAMES:
        raise BadChapters(
            "“{said}” is no moment; one is mm:ss:ff, of {most} frames a second.", said=said[:60], most=CUE_FRAMES
        )
    return int(found[1]) * 60 + int(found[2]) + int(found[3]) / CUE_FRAMES


def ffmetadata(text: str) -> list[Listed] | None:
    """The chapters of the media engine's own metadata format. Raises ``BadChapters``."""
    if not text.startswith(";FFMETADATA"):
        return None
    found: list[dict[str, str]] = []
    inside = False
    # a line's end that is escaped belongs to its value
    for line in re.split(r"(?<!\\)\n", text):
        if line.strip().upper() in ("[CHAPTER]", "[STREAM]"):
            inside = line.strip().upper() == "[CHAPTER]"
            found += [{}] if inside else []
        elif inside and not line.startswith((";", "#")):
            key, equals, value = line.partition("=")
            found[-1].update({key.strip().lower(): re.sub(r"\\(.)", r"\1", value, flags=re.DOTALL)} if equals else {})
    return [listed(one.get("title"), _ticks_s(one)) for one in found]


def _ticks_s(said: Mapping[str, str]) -> float:
    try:
        base = Fraction(said.get("timebase", "1/1000000000"))
        return round(_in_range(float(int(said["start"]) * base)), 6)
    except (KeyError, ValueError, ZeroDivisionError, OverflowError):
        raise BadChapters("A chapter has no START that can be read.") from None


def timed_texts(text: str) -> list[Listed] | None:
    """The cues of WebVTT or SubRip: the moment each begins, and its first line."""
    if "-->" not in text:
        return None
    found: list[Listed] = []
    rows = text.splitlines()
    for place, row in enumerate(rows):
        start, arrow, _ = row.partition("-->")
        if arrow:
            if (start_s := clock_s(start)) is None:
                raise BadChapters("“{said}” is no moment; one is 0:12:30.5.", said=start.strip()[:60])
            found.append(listed(rows[place + 1] if place + 1 < len(rows) else "", start_s))
    return found


def json_list(text: str) -> list[Listed] | None:
    """A list of ``{"start_s", "name"}``, by itself or as ``chapters``; also as ffprobe prints them, and of names only.

    Raises ``BadChapters``.
    """
    if not text.lstrip().startswith(("{", "[")):
        return None
    try:
        said = json.loads(text)
    except (ValueError, RecursionError):
        # a name may begin with a bracket
        if text.lstrip().startswith("["):
            return None
        raise _no_json() from None
    rows = said.get("chapters") if isinstance(said, dict) else said
    if not isinstance(rows, list):
        raise _no_json()
    return [listed(row, None) if isinstance(row, str) else _of_object(row) for row in rows]


def _no_json() -> BadChapters:
    return BadChapters("This is no JSON of chapters: a list of objects with start_s and name.")


def _of_object(row: object) -> Listed:
    if not isinstance(row, dict):
        raise _no_json()
    inside = row.get("tags")
    known = {**(inside if isinstance(inside, dict) else {}), **row}
    name = next((known[key] for key in NAME_KEYS if isinstance(known.get(key), str)), "")
    start = next((known[key] for key in START_KEYS if key in known and known[key] is not None), None)
    # ffprobe's start counts ticks of its time base, beside a start_time in seconds
    return listed(name, None if start is None else _number_s(start))


def _number_s(said: object) -> float:
    if isinstance(said, str) and (clock := clock_s(said)) is not None:
        return clock
    try:
        if isinstance(said, bool):
            raise ValueError
        return _in_range(float(said))  # type: ignore[arg-type]
    except (TypeError, ValueError, OverflowError):
        raise BadChapters("“{said}” is no moment; one is 0:12:30.5.", said=str(said)[:60]) from None


def _in_range(said_s: float) -> float:
    if not 0 <= said_s <= MOST_S:
        raise ValueError
    return said_s


def lines(text: str) -> list[Listed]:
    """A name in each line, with a moment before or behind it or without, counted or not."""
    rows = [line.strip() for line in text.splitlines() if line.strip()]
    rows = _without_numbers(rows) or rows
    found = [_moment(BULLET.sub("", row, count=1)) for row in rows]
    names = [name for name, _ in found]
    # a number may stand behind the moment too
    timed = all(start_s is not None for _, start_s in found)
    names = (_without_numbers(names) if timed else None) or names
    return [listed(name, start_s) for name, (_, start_s) in zip(names, found, strict=True)]


def _without_numbers(rows: list[str]) -> list[str] | None:
    """What stands behind the numbers; ``None`` where not all lines are counted: then a number belongs to its name."""
    found = [None if LEADING.match(row) else COUNTED.match(row) for row in rows]
    if not all(found):
        return None
    return [row[one.end() :] for row, one in zip(rows, found, strict=True) if one]


def _moment(row: str) -> tuple[str, float | None]:
    """The name in a line, and when it begins."""
    if (found := LEADING.match(row)) and (start_s := clock_s(found[1])) is not None:
        return row[found.end() :].lstrip(BETWEEN), start_s
    if (found := TRAILING.search(row)) and (start_s := clock_s(found[1])) is not None:
        return row[: found.start()].rstrip(BETWEEN + "(["), start_s
    return row, None
