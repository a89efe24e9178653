"""A minute to try: what a plan makes of the stretch that asks most of it, as the whole file will have it. Pure."""

from __future__ import annotations

from dataclasses import replace

from ...catalogue import say
from ...errors import PlanError
from ...media import Action, KeptRange, OutputSettings, Title, VideoSettings
from ...media.tags import LONGEST_TAG
from ..decisions import read_pins
from ..decisions.file import NAME, PATTERN
from ..decisions.picture import RATE
from ..decisions.picture.rate import AVERAGE, QUALITY
from ..decisions.range import CUT, KEEP
from ..decisions.range.cut import COPY
from ..decisions.range.keep import kept_value
from ..plan import Plan
from ..request import PlanRequest
from .planner import plan

MINUTE_S = 60.0
LEAST_LONGER_S = 15.0
"""What is hardly longer than a minute is made whole."""
UNSURE = 1.5
"""So many times smaller or larger a part may come out than what is expected from a few seconds of it."""
SHARED_OUT = 0.6
"""How an encoder's two passes share bits out: by this power of what the pictures need (libx264's qcomp)."""


def minute_within(title: Title, made: OutputSettings) -> tuple[KeptRange, ...]:
    """The stretches in which a minute can lie; empty where nothing that goes into the file is much longer."""
    kept = made.kept or (KeptRange(from_s=0.0, until_s=title.duration_s),)
    return tuple(one for one in kept if one.length_s > MINUTE_S + LEAST_LONGER_S)


def minute_request(request: PlanRequest, whole: Plan, stretch: KeptRange | None) -> PlanRequest:
    """The request for a stretch of what ``whole`` makes; for all of it, under the name of a try, where it is ``None``.

    Where it can be cut has to be found out anew. Raises ``PlanError`` where nothing is made.
    """
    made = _settings(whole)
    by_hand = request.pins.of(NAME)
    name = say("{name} (a minute to try)", name=by_hand or _stem(made))
    # it lies apart from what is kept, and its title says what it is
    said = {**request.pins.said, NAME.key: name, PATTERN.key: "flat", "file.title": _fitting(name)}
    if stretch is not None:
        said.pop(CUT.key, None)
        said |= {KEEP.key: kept_value((stretch,)), **_rate(made.video)}
        if _copies(made) and not request.title.joined:
            said[CUT.key] = COPY
    return replace(request, pins=read_pins(said), name=name, copy_ranges=None, middles=None)


def _stem(made: OutputSettings) -> str:
    return made.file_name.rpartition("/")[2].rpartition(".")[0]


def _fitting(name: str) -> str:
    """As much of a name as a title holds."""
    return name.encode()[:LONGEST_TAG].decode(errors="ignore")


def minute_plan(request: PlanRequest, whole: Plan, times_mean: float = 1.0) -> Plan:
    """The plan of a ``minute_request``: its picture is made just as the whole file's.

    ``times_mean``: how many times as many bits as on average the pictures need there; two passes would give it more.
    """
    if (samples := request.samples) is not None:
        coarse, fine = samples.coarse_bits * times_mean, samples.fine_bits * times_mean
        request = replace(request, samples=replace(samples, coarse_bits=coarse, fine_bits=fine))
    made = _less_sure(plan(request))
    part, seen = _settings(made), _settings(whole).video
    if KEEP not in request.pins or not _is_made(part.video) or not _is_made(seen) or request.title.joined:
        return made
    assert seen is not None
    return replace(made, settings=replace(part, video=_with_rate(seen, times_mean)))


def _less_sure(made: Plan) -> Plan:
    """A part's size is less sure than that of all."""
    if made.estimate is None:
        return made
    low, high = made.estimate.size_low_bytes / UNSURE, made.estimate.size_high_bytes * UNSURE
    return replace(made, estimate=replace(made.estimate, size_low_bytes=round(low), size_high_bytes=round(high)))


def _rate(made: VideoSettings | None) -> dict[str, str]:
    """What a size or a limit left for the whole file, since the same would be too much for a minute of it."""
    if made is None or made.action is not Action.ENCODE:
        return {}
    if made.quality is not None:
        return {RATE.key: f"{QUALITY}:{made.quality}"}
    return {RATE.key: f"{AVERAGE}:{max(1, (made.bitrate_bps or 0) // 1000)}"}


def _with_rate(made: VideoSettings, times_mean: float) -> VideoSettings:
    if made.bitrate_bps is None:
        return made
    wanted = round(made.bitrate_bps * times_mean**SHARED_OUT)
    return replace(made, bitrate_bps=min(wanted, made.peak_bps) if made.peak_bps else wanted)


def _is_made(video: VideoSettings | None) -> bool:
    return video is not None and video.action is Action.ENCODE


def _copies(made: OutputSettings) -> bool:
    streams = (made.video, *made.audio)
    return any(stream is not None and stream.action is Action.COPY for stream in streams)


def _settings(made: Plan) -> OutputSettings:
    if made.settings is None:
        raise PlanError("There is nothing to make for this title and device.", advice="")
    return made.settings
