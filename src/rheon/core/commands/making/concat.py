"""Several pieces in one file: each is made as if it were alone, then they are concatenated and encoded. Pure."""

from __future__ import annotations

import math
from dataclasses import replace

from ...media import AudioSettings, AudioStream, FileData, rate_text
from ..inputs import audio_specifier
from .encoders import untold_priming_s
from .filters import audio_filters, just_before
from .job import ON_TIME, Job

SEAM_S = 0.0025
"""Sound that breaks off in the middle of a wave clicks; over so short a time nobody hears it fade."""
LAYOUTS = {1: "mono", 2: "stereo", 3: "2.1", 4: "4.0", 5: "5.0", 6: "5.1", 7: "6.1", 8: "7.1"}
"""What the engine's encoders take so many channels for."""


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
        track = piece.title.audio[made.track]
        own = _for_part(made, number, track) if job.title.joined else made
        steps = [
            *([] if track.absent else [_timed(own, piece)]),
            *([_common_form(made)] if job.title.joined else []),
            *([] if to_the_sample(piece) else _filled(length_s)),
        ]
        steps += [f"afade=t=in:d={SEAM_S}"] if number and number - 1 not in job.smooth else []
        fades = number < last and number not in job.smooth
        steps += [f"afade=t=out:st={length_s - SEAM_S:.6f}:d={SEAM_S}"] if fades else []
        source = "anullsrc," if track.absent else f"[{audio_specifier(piece.title, made.track, number)}]"
        parts.append(f"{source}{','.join(steps)}[heard{place}p{number}]")
        seams += f"[heard{place}p{number}]"
    silence_s = untold_priming_s(made, job.settings.container)
    earlier = f",atrim=start={silence_s:.6f},asetpts=PTS-STARTPTS" if silence_s else ""
    return ";".join([*parts, f"{seams}concat=n={last + 1}:v=0:a=1{earlier}[sound{place}]"])


def _for_part(made: AudioSettings, number: int, track: AudioStream) -> AudioSettings:
    gain_db = made.part_gains_db[number] if made.part_gains_db else made.gain_db
    return replace(made, source_channels=track.channels, gain_db=gain_db)


def _timed(made: AudioSettings, piece: Job) -> str:
    return audio_filters(made, piece.phase_s + piece.lead_s, from_zero=True, snapped=piece.in_join)


def _filled(length_s: float) -> list[str]:
    return [f"atrim=end={just_before(length_s)}", f"apad=whole_dur={length_s:.6f}"]


def to_the_sample(piece: Job) -> bool:
    """Whether a part is as long as its sound is: where that is all there is, no rounded length counts."""
    alone = piece.settings.video is None and len(piece.settings.audio) == 1
    whole = piece.title.part_of is None and isinstance(piece.title.data, FileData)
    return alone and whole and not piece.title.audio[piece.settings.audio[0].track].absent


def _common_form(made: AudioSettings) -> str:
    """Parts of other channels or another rate in the form of the output: only equal ones can be concatenated."""
    layout = LAYOUTS.get(made.channels, f"{made.channels}c")
    return f"aformat=sample_fmts=fltp:sample_rates={made.sample_rate}:channel_layouts={layout}"


def begins_s(job: Job, number: int) -> float:
    """When a piece begins in the output."""
    return sum(_length_s(job, before) for before in range(number))


def _length_s(job: Job, number: int) -> float:
    """How long a piece is when its pictures have been moved onto ticks, of which it takes whole ones."""
    piece = job.piece(number)
    data = piece.title.data
    if job.has_edges:
        return piece.title.duration_s
    begins = isinstance(data, FileData) and not data.from_s
    length_s = piece.title.duration_s - (piece.phase_s if begins else 0.0)
    if job.settings.video is None:
        return length_s
    rate = job.settings.video.frame_rate
    return math.ceil(length_s * rate - ON_TIME) / float(rate)
