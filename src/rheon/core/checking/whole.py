"""Is an output whole? The last picture and the last sound of each track against the source's, stream by stream."""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

from ..devices import RuleResult
from ..engine import ProbedFile
from ..engine.packets import Packets
from ..media import Action, CellData, FileData, OutputSettings, Span, Title
from ..media.facts import Unit, fact, near
from ..media.kept import first_picture_s, kept_title, pieces_of, steady_rate
from ..sources.material.ends import stream_ends

SHORT_S = 0.5
"""So much may lack at the end of a stream: packets hold several frames, and tables round."""
MOST_APART = 3.5
UNEVEN = 0.55
"""So much of a step a picture may come early or late: fields come at half steps, and containers round times."""
VARYING_SHARE = 0.25
"""Of a recording whose pictures come when something changes, the last one may stand for long."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Ends:
    """When the streams of an output must end, in seconds; ``None`` where the source does not tell.

    ``pictures`` is how many there are where all of them are copied from several files, ``even_s`` how long each is
    shown and ``shown`` how many there are where copied ones stand between encoded ones, ``missing`` what the source
    itself lacks.
    """

    picture_s: float | None = None
    sounds_s: tuple[float | None, ...] = ()
    pictures: int | None = None
    even_s: float | None = None
    shown: int | None = None
    missing: tuple[RuleResult, ...] = ()


def ends_wanted(title: Title, made: OutputSettings) -> Ends:
    """What the source holds of the streams that go into an output. Raises ``OSError`` where it can't be read."""
    pieces = pieces_of(title, made.kept)
    before_s = sum(piece.duration_s for piece in pieces[:-1])
    last = _ends_of(pieces[-1], made)
    return replace(
        last,
        picture_s=None if last.picture_s is None else before_s + last.picture_s,
        sounds_s=tuple(None if end is None else before_s + end for end in last.sounds_s),
        pictures=_copied_pictures(title, made),
        even_s=float(1 / made.video.frame_rate) if made.video and made.middles else None,
        shown=_shown_pictures(title, made),
        missing=tuple(_missing(kept_title(title, made.kept))),
    )


def _copied_pictures(title: Title, made: OutputSettings) -> int | None:
    copied = made.video is not None and made.video.action is Action.COPY
    if not (title.joined and copied and isinstance(title.data, FileData)) or title.video is None:
        return None
    spans = [part.video.span for part in title.joined if part.video is not None]
    counted = [span.packets for span in spans if span is not None and span.whole]
    return sum(counted) if len(counted) == len(title.joined) else None


def _shown_pictures(title: Title, made: OutputSettings) -> int | None:
    """How many pictures kept stretches have, where only their edges are encoded; ``None`` where that is not sure."""
    video, rate = title.video, steady_rate(title.video)
    if not made.middles or video is None or rate is None:
        return None
    first_s, ends = first_picture_s(title), [one.until_s for one in made.kept]
    if isinstance(title.data, FileData):
        last_s = _last_picture_end(video.span, first_s, rate) if video.span else None
    else:
        last_s = title.duration_s if max(ends) < title.duration_s - 1 / rate else None
    if last_s is None:
        return None
    bounds = [(max(one.from_s, first_s), min(one.until_s, last_s)) for one in made.kept]
    return sum(round((until_s - from_s) * rate) for from_s, until_s in bounds)


def _last_picture_end(span: Span, first_s: float, rate: float) -> float:
    """Where the pictures end: counted, unless each of them is stored in two packets; not every last one has a time."""
    told_s = first_s + span.end_s - span.start_s
    counted_s = first_s + span.packets / rate
    return counted_s if span.whole and abs(counted_s - told_s) <= MOST_APART / rate else told_s


def _ends_of(title: Title, made: OutputSettings) -> Ends:
    length = title.duration_s
    data = title.data
    if isinstance(data, CellData):
        found = stream_ends(data)
        ids = [title.audio[sound.track].stream_id for sound in made.audio]
        known = [found.get(stream_id) if stream_id is not None else None for stream_id in ids]
        sounds = tuple(None if end is None else min(end, length) for end in known)
        return Ends(picture_s=length if made.video else None, sounds_s=sounds)
    return Ends(
        picture_s=_picture_end(title, data, length) if made.video else None,
        sounds_s=tuple(_within(title.audio[s.track].span, data, length) for s in made.audio),
    )


def _missing(title: Title) -> Iterator[RuleResult]:
    """What the source promises and does not hold: its end, or stretches that can't be read."""
    if title.promised_s is not None:
        yield RuleResult(
            rule="source_whole",
            part="file",
            ok=False,
            measured=fact(Unit.SOURCE_END, title.duration_s),
            allowed=fact(Unit.PROMISED_END, title.promised_s),
        )
    for gap in title.gaps:
        yield RuleResult(
            rule="source_damage",
            part="file",
            ok=True,
            measured=fact(Unit.GAP, gap.from_s, gap.to_s),
            allowed=fact(Unit.TOLD),
        )


def _picture_end(title: Title, data: FileData, length: float) -> float | None:
    video = title.video
    if video is None or video.span is None:
        return length
    end = _within(video.span, data, length)
    return end * (1 - VARYING_SHARE) if end is not None and video.variable_rate else end


def _within(span: Span | None, data: FileData, length: float) -> float | None:
    return None if span is None else max(0.0, min(length, span.end_s - data.from_s))


def whole_rules(wanted: Ends, found: ProbedFile, packets: Mapping[int, Packets]) -> list[RuleResult]:
    """Each stream's end against the source's."""
    rules = [*wanted.missing]
    if wanted.picture_s is not None and found.video is not None:
        rules.append(_rule("picture_whole", "video", wanted.picture_s, _end(found, packets, found.video.place)))
    if wanted.pictures is not None and found.video is not None and found.video.place is not None:
        rules.append(_pictures_rule(wanted.pictures, packets.get(found.video.place)))
    if wanted.even_s is not None and found.video is not None and found.video.place is not None:
        rules.append(_even_rule(wanted.even_s, packets.get(found.video.place)))
    for track, end_s in zip(found.audio, wanted.sounds_s, strict=False):
        if end_s is not None:
            rules.append(_rule("sound_whole", "audio", end_s, _end(found, packets, track.place)))
    return rules


def _end(found: ProbedFile, packets: Mapping[int, Packets], place: int | None) -> float:
    stream = packets.get(-1 if place is None else place)
    end = stream.end_s if stream else None
    return 0.0 if end is None else end - found.start_s


def _pictures_rule(wanted: int, found: Packets | None) -> RuleResult:
    count = len(found.sizes) if found else 0
    return RuleResult(
        rule="pictures_joined",
        part="video",
        ok=count == wanted,
        measured=fact(Unit.COUNT, count),
        allowed=fact(Unit.COUNT, wanted),
    )


def _even_rule(step_s: float, found: Packets | None) -> RuleResult:
    """Whether each picture comes one step behind the one before it: where pieces meet, none lacks or comes twice."""
    shown = sorted(at for at in (found.steady if found else []) if not math.isnan(at))
    steps = [after - before for before, after in itertools.pairwise(shown)]
    worst = max(steps, key=lambda step: abs(step - step_s), default=step_s)
    return RuleResult(
        rule="pictures_even",
        part="video",
        ok=bool(steps) and abs(worst - step_s) <= UNEVEN * step_s,
        measured=fact(Unit.STEP, round(worst, 4)),
        allowed=near(Unit.STEP, round(step_s, 4), round(UNEVEN * step_s, 4)),
    )


def _rule(name: str, part: str, wanted_s: float, seen_s: float) -> RuleResult:
    return RuleResult(
        rule=name,
        part=part,
        ok=seen_s >= wanted_s - SHORT_S,
        measured=fact(Unit.END, seen_s),
        allowed=near(Unit.END, wanted_s, SHORT_S),
    )


def shown_rule(wanted: Ends | None, decoded: int) -> list[RuleResult]:
    """Every picture of the kept stretches has to come out of a decoder, over headers that change on the way."""
    if wanted is None or wanted.shown is None:
        return []
    return [
        RuleResult(
            rule="pictures_shown",
            part="video",
            ok=decoded == wanted.shown,
            measured=fact(Unit.COUNT, decoded),
            allowed=fact(Unit.COUNT, wanted.shown),
        )
    ]


def damage_rule(damage: Sequence[tuple[float, str]]) -> list[RuleResult]:
    """What the engine complained of while it read the source; told, and no reason to keep nothing."""
    if not damage:
        return []
    first_s = min(at for at, _ in damage)
    return [
        RuleResult(
            rule="source_damage",
            part="file",
            ok=True,
            measured=fact(Unit.DAMAGE, len(damage), first_s),
            allowed=fact(Unit.TOLD),
        )
    ]
