"""Loudness, peaks, silence and sameness of audio tracks, from stretches all over a title.

Loudness by ITU-R BS.1770 as the engine's ``ebur128`` filter measures it.
"""

from __future__ import annotations

import contextlib
import re
from collections import Counter, defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from ..commands.looking import loudness, without_loss
from ..engine import Command, run
from ..errors import EngineError
from ..media import AudioStream, Title
from .excerpts import excerpt
from .findings import SoundFound

STRETCH_S = 3.0
RATE = 8000
SILENT_DBFS = -60.0
ALIKE, NEARLY = 0.98, 0.85
FLOOR_LUFS = -69.0
MOST_TRACKS = 8
LOSSLESS_PLACES, LOSSLESS_TRACKS = 3, 4
TIMEOUT_S = 30


@dataclass(frozen=True, slots=True, kw_only=True)
class _Heard:
    """One stretch of all tracks: loudness and peak of each, and their samples (tracks, samples)."""

    loudness: tuple[float, ...]
    peaks: tuple[float, ...]
    samples: np.ndarray


def measure_sounds(title: Title, times: Sequence[float]) -> tuple[SoundFound, ...]:
    """Measure every track at the given moments; empty where none could be heard."""
    tracks = tuple(track for track in title.audio if not track.absent)[:MOST_TRACKS]
    if not tracks:
        return ()
    heard = [one for at_s in times if (one := _listen(title, tracks, at_s)) is not None]
    if not heard:
        return ()
    places = times[:: max(1, len(times) // LOSSLESS_PLACES)][:LOSSLESS_PLACES]
    rates = lossless_rates([line for at_s in places for line in _as_flac(title, tracks[:LOSSLESS_TRACKS], at_s)])
    return tuple(
        replace(_found(track, tracks, heard), lossless_bps=rates.get(place)) for place, track in enumerate(tracks)
    )


def lossless_rates(said: Sequence[str]) -> dict[int, float]:
    """Bits a second of each stream, from the muxer's line for each packet: stream, times, duration (in samples), size.

    The comment lines before them give each stream's time base.
    """
    base: dict[int, float] = {}
    size: Counter[int] = Counter()
    length_s: defaultdict[int, float] = defaultdict(float)
    for line in said:
        if found := re.match(r"#tb (\d+): (\d+)/(\d+)", line):
            base[int(found[1])] = int(found[2]) / int(found[3])
        elif found := re.match(r"(\d+),[^,]*,[^,]*,\s*(\d+),\s*(\d+),", line):
            stream = int(found[1])
            length_s[stream] += int(found[2]) * base.get(stream, 0.0)
            size[stream] += int(found[3])
    return {stream: round(size[stream] * 8 / length_s[stream]) for stream in size if length_s[stream]}


def _as_flac(title: Title, tracks: Sequence[AudioStream], at_s: float) -> list[str]:
    """What the muxer says of the packets of a stretch, all tracks of it coded without loss; nothing where it fails."""
    source = excerpt(title, min(at_s, max(0.0, title.duration_s - STRETCH_S)))
    argv = without_loss(source.view, tracks, STRETCH_S)
    said: list[str] = []
    command = Command(argv=argv, feed=source.feed, timeout_s=TIMEOUT_S, gentle=True, on_line=said.append)
    with contextlib.suppress(EngineError):
        run(command)
    return said


def _listen(title: Title, tracks: Sequence[AudioStream], at_s: float) -> _Heard | None:
    source = excerpt(title, at_s)
    argv = loudness(source.view, tracks, STRETCH_S, RATE)
    said: list[str] = []
    command = Command(argv=argv, feed=source.feed, timeout_s=TIMEOUT_S, gentle=True, on_complaint=said.append)
    try:
        data = run(command).stdout
    except EngineError:
        return None
    levels, peaks = read_summaries(said, len(tracks))
    whole = len(data) // (2 * len(tracks))
    if not whole:
        return None
    samples = np.frombuffer(data[: whole * 2 * len(tracks)], dtype=np.int16).reshape(whole, len(tracks)).T
    return _Heard(loudness=levels, peaks=peaks, samples=samples.astype(np.float64))


def read_summaries(said: Sequence[str], count: int) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """(loudness, peaks) of each track from the filter's reports."""
    loudness, peaks = [-70.0] * count, [-99.0] * count
    track: int | None = None
    for line in said:
        if found := re.search(r"ebur128@t(\d+)\b.*Summary", line):
            track = int(found[1])
        elif track is not None and (found := re.match(r"\s*I:\s+(-?[\d.]+) LUFS", line)):
            loudness[track] = float(found[1])
        elif track is not None and (found := re.match(r"\s*Peak:\s+(-?[\d.]+) dBFS", line)):
            peaks[track] = float(found[1])
    return tuple(loudness), tuple(peaks)


def _found(track: AudioStream, tracks: Sequence[AudioStream], heard: Sequence[_Heard]) -> SoundFound:
    place = tracks.index(track)
    peak = max(one.peaks[place] for one in heard)
    levels = np.array([one.loudness[place] for one in heard])
    silent = peak < SILENT_DBFS
    audible = levels[levels > FLOOR_LUFS]
    loudness = float(10 * np.log10(np.mean(10 ** (audible / 10)))) if len(audible) else None
    same = next((other.index for n, other in enumerate(tracks[:place]) if not silent and _alike(heard, n, place)), None)
    spread = float(np.std(audible)) if len(audible) > 1 else 6.0
    sure = (1 - 0.5 ** len(heard)) * (1.0 if silent else max(0.5, 1 - spread / 30))
    return SoundFound(
        index=track.index,
        loudness_lufs=None if silent or loudness is None else round(loudness, 1),
        peak_dbfs=None if silent else round(peak, 1),
        silent=silent,
        same_as=same,
        sure=round(sure, 2),
    )


def _alike(heard: Sequence[_Heard], one: int, other: int) -> bool:
    """Whether two tracks sound the same wherever either can be heard; copies may differ by a few samples' delay."""
    judged = [
        found for stretch in heard if (found := _likeness(stretch.samples[one], stretch.samples[other])) is not None
    ]
    # the last stretch may end early, and a copy may start late
    return bool(judged) and min(judged) >= NEARLY and float(np.median(judged)) >= ALIKE


def _likeness(one: np.ndarray, other: np.ndarray) -> float | None:
    """The greatest correlation within 60 ms; ``None`` where both are silent."""
    one, other = one - one.mean(), other - other.mean()
    energy = float(np.sqrt((one**2).sum() * (other**2).sum()))
    if (one**2).mean() < 4 and (other**2).mean() < 4:
        return None
    if not energy:
        return 0.0
    size = 1 << (2 * len(one) - 1).bit_length()
    product = np.fft.irfft(np.fft.rfft(one, size) * np.conj(np.fft.rfft(other, size)), size)
    reach = RATE * 6 // 100
    return float(np.abs(np.concatenate((product[: reach + 1], product[-reach:]))).max() / energy)
