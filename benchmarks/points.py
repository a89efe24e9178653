"""How a file is judged against the truth of what it was made from, subject by subject."""

from __future__ import annotations

import json
import re
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Any

import numpy as np
from tests.instruments.authored import CLICK_EVERY_S, numbered
from tests.instruments.readback import Seen, hear, lit, measure, see

from rheon.core.delivery import Delivered
from rheon.core.engine import Command, run
from rheon.core.media import Title
from rheon.core.planning import OutputSettings
from rheon.core.wording import fact_text

TOGETHER_S, USUALLY_S = 0.020, 0.008
AROUND_HOLE_S = 0.7
"""A lost stretch takes its whole unit of pictures along."""
LIKE, LEVEL, GREY = 0.97, 5.0, 4.0
PLACES = 12


@dataclass(frozen=True, slots=True, kw_only=True)
class Case:
    """A title to convert, and its truth: pictures counted at ``rate``, and when drawn lines stand (in file time).

    ``source_s`` is how much later than its pictures the source's own sound comes; ``hole_s`` is the stretch that the
    source has lost; ``chapters_s`` are where chapters begin.
    """

    name: str
    title: Title
    device_id: str
    pictures: frozenset[int]
    rate: Fraction
    first: int = 0
    lines: tuple[tuple[float, float], ...] = ()
    doubles: bool = False
    source_s: float = 0.0
    hole_s: tuple[float, float] | None = None
    chapters_s: tuple[float, ...] = ()
    accept_loss: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Result:
    """How a conversion came out, subject by subject: whether it was right, and what was seen."""

    name: str
    points: dict[str, tuple[bool, str]]


Points = dict[str, tuple[bool, str]]


def points(case: Case, done: Delivered, made: OutputSettings) -> Points:
    """Every subject that the case has a truth for."""
    assert made.video is not None
    seen = see(done.path)
    found = {
        **_pictures(case, seen, made.video.every),
        **_sound(case, done.path),
        **_looks(case, done.path, seen),
        "language": _language(case, done.path),
    }
    if case.lines:
        found["subtitles within a picture"] = _lines(case, done.path)
    if case.chapters_s and made.chapters and len(case.chapters_s) > 1:
        found["chapters within a picture"] = _chapters(case, done.path)
    if case.hole_s is not None:
        found["damage told"] = _told(case, done)
    return found


def _in_hole(case: Case, at_s: float) -> bool:
    if case.hole_s is None:
        return False
    return case.hole_s[0] - AROUND_HOLE_S <= at_s <= case.hole_s[1] + AROUND_HOLE_S


def _pictures(case: Case, seen: Seen, every: int) -> Points:
    wanted = {n for n in case.pictures if n % every == case.first % every}
    sure = {n for n in wanted if not _in_hole(case, (n - case.first) / float(case.rate))}
    # where the source has lost something, what is shown there may say anything
    shown = zip(seen.numbers, seen.times, strict=True)
    known = [n for n, at in shown if not _in_hole(case, at - seen.times[0])]
    lost, more = len(sure - set(known)), len(set(known) - wanted)
    return {
        "pictures all there": (not lost and not more, f"{lost} lost, {more} too many"),
        "pictures once": (case.doubles or not seen.doubled, f"{seen.doubled} doubled"),
        "pictures in order": (known == sorted(known), f"{seen.disordered} out of order"),
        "first picture": (known[0] == min(wanted), f"{known[0]}"),
        "last picture": (known[-1] == max(wanted), f"{known[-1]}"),
    }


def _sound(case: Case, path: Path) -> Points:
    """Clicks against pictures at every half second, and each of them heard; what the source has lost is left out."""
    first_s = case.first / float(case.rate)
    last = max(case.pictures)
    found = measure(path, case.rate, range(case.first, last + 1), first_s=first_s)
    heard = hear(path, first_s=first_s)
    kept = [
        off - found.picture_start_s - case.source_s
        for click, off in zip(heard.clicks, heard.offsets, strict=True)
        if not _in_hole(case, click * CLICK_EVERY_S - first_s)
    ]
    expected = (last + 1 - case.first) / float(case.rate) / CLICK_EVERY_S
    if case.hole_s is not None:
        expected -= (case.hole_s[1] - case.hole_s[0] + 2 * AROUND_HOLE_S) / CLICK_EVERY_S
    worst_s, usual_s = float(np.abs(kept).max()), float(np.median(kept))
    return {
        "sound with picture, 20 ms everywhere": (worst_s <= TOGETHER_S, f"{worst_s * 1000:.1f} ms"),
        "sound with picture, 8 ms usually": (abs(usual_s) <= USUALLY_S, f"{usual_s * 1000:.1f} ms"),
        "clicks all there": (len(kept) >= expected - 2, f"{len(kept)} of {expected:.0f}"),
    }


def _looks(case: Case, path: Path, seen: Seen) -> Points:
    """Likeness and levels of the picture at twelve places, and that it is still without colour."""
    width, height = 160, 120
    argv = ["ffmpeg", "-v", "error", "-nostdin", "-i", str(path), "-map", "0:V:0", "-fps_mode", "passthrough"]
    argv += ["-vf", f"scale={width}:{height}:flags=area,format=yuv420p", "-f", "rawvideo", "pipe:1"]
    data = np.frombuffer(run(Command(argv=argv, timeout_s=300)).stdout, np.uint8).reshape(-1, width * height * 3 // 2)
    right = [n for n, number in enumerate(seen.numbers[: len(data)]) if number in case.pictures]
    like, level, grey = 1.0, 0.0, 0.0
    for at in right[:: max(1, len(right) // PLACES)]:
        luma = data[at, : width * height].astype(float)
        truth = numbered(seen.numbers[at], (width, height)).astype(float).ravel()
        # a drawn line stands in the lower part
        luma, truth = luma[: width * height * 3 // 4], truth[: width * height * 3 // 4]
        like = min(like, float(np.corrcoef(luma, truth)[0, 1]))
        level = max(level, abs(float(luma.mean() - truth.mean())))
        grey = max(grey, float(np.abs(data[at, width * height :].astype(float) - 128).mean()))
    return {
        "likeness of pictures": (like >= LIKE, f"{like:.3f}"),
        "levels and colour": (level <= LEVEL and grey <= GREY, f"{level:.1f} from the level, {grey:.1f} from grey"),
    }


def _language(case: Case, path: Path) -> tuple[bool, str]:
    """What the file says of its sound against the source; containers that say none count as right."""
    said = _probed(path, "stream=codec_type:stream_tags=language")["streams"]
    found = [s.get("tags", {}).get("language", "und") for s in said if s["codec_type"] == "audio"]
    wanted = {"en": "eng"}.get(case.title.audio[0].language, "und")
    return found[0] in (wanted, "und"), str(found)


def _chapters(case: Case, path: Path) -> tuple[bool, str]:
    found = [float(chapter["start_time"]) for chapter in _probed(path, "chapter=start_time")["chapters"]]
    near = len(found) == len(case.chapters_s) and all(
        abs(one - other) <= 1 / float(case.rate) for one, other in zip(found, case.chapters_s, strict=True)
    )
    return near, str(found)


def _probed(path: Path, entries: str) -> dict[str, list[dict[str, Any]]]:
    argv = ["ffprobe", "-v", "error", "-show_chapters", "-show_entries", entries, "-of", "json", str(path)]
    found: dict[str, list[dict[str, Any]]] = json.loads(run(Command(argv=argv)).stdout)
    return found


def _told(case: Case, done: Delivered) -> tuple[bool, str]:
    """Whether the check names the damage, and near its second."""
    assert case.hole_s is not None
    said = [fact_text(rule.measured) for rule in done.checks[0].results if rule.rule == "source_damage"]
    places = [int(m[1]) * 60 + int(m[2]) for text in said for m in re.finditer(r"at (\d+):(\d\d)", text)]
    places += [int(m[1]) for text in said for m in re.finditer(r"near (\d+) s", text)]
    return any(case.hole_s[0] - 1 <= at <= case.hole_s[1] + 1 for at in places), "; ".join(said) or "nothing"


def _lines(case: Case, path: Path) -> tuple[bool, str]:
    """Begin and end of each line; lines with less than two pictures between them may be seen as one."""
    picture_s = 1 / float(case.rate) + 0.002
    found = lit(path)
    begins = all(any(abs(a - line[0]) <= picture_s for a, _ in found) or _follows(line, case) for line in case.lines)
    ends = all(any(abs(b - line[1]) <= picture_s for _, b in found) or _leads(line, case) for line in case.lines)
    return begins and ends, f"{[(round(a, 2), round(b, 2)) for a, b in found]}"


def _follows(line: tuple[float, float], case: Case) -> bool:
    return any(0 <= line[0] - other[1] < 2 / float(case.rate) for other in case.lines)


def _leads(line: tuple[float, float], case: Case) -> bool:
    return any(0 <= other[0] - line[1] < 2 / float(case.rate) for other in case.lines)
