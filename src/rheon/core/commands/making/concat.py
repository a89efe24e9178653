"""Several pieces in one file: each is made as if it were alone, then they are concatenated and encoded. Pure."""

from __future__ import annotations

import math

from ...media import FileData, rate_text
from ..inputs import audio_specifier
from .encoders import untold_priming_s
from .filters import audio_filters, just_before
from .job import ON_TIME, Job

SEAM_S = 0.0025
"""Sound that breaks off in the middle of a wave clicks; over so short a time nobody hears it fade."""


def concat_pictures(job: Job, graphs: list[str]) -> str:
    """The pieces' own graphs, each of which ends in ``[out]``, as one that does."""
    video = job.settings.video
    assert video is not None
    parts, seams = [], ""
    for number, graph in enumerate(graphs):
        own = graph.removesuffix("[out]").replace("[seen]", f"[seen{number}]")
        parts.append(f"{own},trim=end={just_before(_length_s(job, number))}[piece{number}]")
        seams += f"[piece{number}]"
    # concatenated, times are in millionths of a second
    even = f"fps={rate_text(video.frame_rate)}"
    return ";".join([*parts, f"{seams}concat=n={len(graphs)}:v=1:a=0,{even}[out]"])


def concat_sound(job: Job, place: int) -> str:
    """A track of the output from all pieces, to ``[soundN]``."""
    made = job.settings.audio[place]
    parts, seams, last = [], "", len(job.pieces) - 1
    for number, piece in enumerate(job.each):
        length_s = _length_s(job, number)
        steps = [
            audio_filters(made, piece.phase_s + piece.lead_s, from_zero=True),
            f"atrim=end={just_before(length_s)}",
            f"apad=whole_dur={length_s:.6f}",
        ]
        steps += [f"afade=t=in:d={SEAM_S}"] if number else []
        steps += [f"afade=t=out:st={length_s - SEAM_S:.6f}:d={SEAM_S}"] if number < last else []
        source = audio_specifier(piece.title, made.track, number)
        parts.append(f"[{source}]{','.join(steps)}[heard{place}p{number}]")
        seams += f"[heard{place}p{number}]"
    silence_s = untold_priming_s(made, job.settings.container)
    earlier = f",atrim=start={silence_s:.6f},asetpts=PTS-STARTPTS" if silence_s else ""
    return ";".join([*parts, f"{seams}concat=n={last + 1}:v=0:a=1{earlier}[sound{place}]"])


def _length_s(job: Job, number: int) -> float:
    """How long a piece is when its pictures have been moved onto ticks, of which it takes whole ones."""
    piece = job.piece(number)
    data = piece.title.data
    begins = isinstance(data, FileData) and not data.from_s
    length_s = piece.title.duration_s - (piece.phase_s if begins else 0.0)
    if job.settings.video is None:
        return length_s
    rate = job.settings.video.frame_rate
    return math.ceil(length_s * rate - ON_TIME) / float(rate)
