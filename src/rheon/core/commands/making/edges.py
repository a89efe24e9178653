"""A cut to the picture that copies what can be copied: the pictures before and behind it are encoded by themselves.

Every piece becomes a transport stream on one time line, so that they can follow each other byte for byte. Pure.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from fractions import Fraction

from ...formats import video_encoder
from ...media import PTS_HZ, Action, Title
from ..inputs import video_specifier
from ..start import QUIET
from .concat import concat_pictures
from .encoders import video_arguments
from .filters import just_before
from .inputs import BASE_S, main_input, main_inputs
from .job import Job
from .whole import picture_graph

MUXED = "mpeg_ts"
REPEATED_HEADERS = {"mpeg2video": "dump_extra=freq=k,", "h264": "h264_mp4toannexb,"}
"""What repeats a codec's headers before each key picture, so that it can be decoded after other headers."""
REORDERED_ONCE = frozenset({"mpeg2video"})
"""Codecs in which a picture is stored at most one picture before it is shown, but for those that others lead up to."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Placed:
    """Where a piece goes: when its own zero comes in the output, and how much earlier pictures are stored than shown.

    ``count`` is how many pictures it has.
    """

    at_s: float
    count: int
    delay_s: float = 0.0


def edge_job(job: Job, edge: Title, target: str) -> Job:
    """What encodes the pictures of an edge, and nothing else."""
    assert job.settings.video is not None
    settings = replace(
        job.settings, container=MUXED, video=job.settings.video.edges, audio=(), subtitles=(), chapters=False, kept=()
    )
    return replace(job, title=edge, settings=settings, target=target, pieces=(edge,), number=0, smooth=frozenset())


def middle_job(job: Job, middle: Title) -> Job:
    """What copies the pictures between the edges."""
    settings = replace(job.settings, container=MUXED, audio=(), subtitles=(), chapters=False)
    return replace(job, title=middle, settings=settings, target="", pieces=(), number=0)


def edge_command(edge: Job, placed: Placed, header_id: int) -> list[str]:
    """Encode an edge's pictures, under headers of their own number where the codec has numbers.

    They are stored in the order in which they are shown, each at its tick.
    """
    made = edge.settings.video
    assert made is not None and made.action is Action.ENCODE
    (piece,) = edge.each
    of_fields = video_encoder(made.codec, made.encoder).field_arguments if made.combed else ()
    graph = concat_pictures(edge, [picture_graph(piece)])
    step = Fraction(PTS_HZ) / made.frame_rate
    shown = f"N*{step.numerator}/{step.denominator}+{(placed.at_s + piece.phase_s) * PTS_HZ:.3f}"
    stored = f"{shown}-{placed.delay_s * PTS_HZ:.3f}"
    return [
        *QUIET, "-y", "-noautorotate", *main_inputs(edge), "-filter_complex", graph, "-map", "[out]",
        *video_arguments(made, MUXED, 0), *of_fields,
        *(["-x264-params", f"sps-id={header_id}"] if made.codec == "h264" else []),
        "-bsf:v", f"setts=pts=floor({shown}+0.5):dts=floor({stored}+0.5)",
        "-frames:v", str(placed.count), *_muxed(BASE_S, f"file:{edge.target}"),
    ]  # fmt: skip


def middle_command(middle: Job, at_s: float, *, only_first: bool = False) -> list[str]:
    """Copy the pictures between the edges, and none that belongs to the pictures before them."""
    title, made = middle.title, middle.settings.video
    assert made is not None
    kept = f"noise=drop='lt(pts,-1)+gte(pts,{float(just_before(title.duration_s)) * PTS_HZ:.0f})'"
    if made.codec in REORDERED_ONCE:
        # without the pictures that led up to it, the first one is decoded just before it is shown
        kept += f",setts=pts=PTS:dts='if(eq(N,0),max(DTS,PTS-{PTS_HZ / made.frame_rate}),DTS)'"
    return [
        *QUIET, "-y", "-fflags", "+genpts", *main_input(middle), "-map", video_specifier(title),
        "-c:v", "copy", "-copypriorss", "0", "-bsf:v", f"{REPEATED_HEADERS[made.codec]}{kept}",
        *(["-frames:v", "1"] if only_first else []), *_muxed(BASE_S + at_s, "pipe:1"),
    ]  # fmt: skip


def _muxed(offset_s: float, target: str) -> list[str]:
    return [
        "-output_ts_offset", f"{offset_s:.6f}", "-muxdelay", "0", "-muxpreload", "0",
        "-mpegts_flags", "initial_discontinuity", "-f", "mpegts", target,
    ]  # fmt: skip
