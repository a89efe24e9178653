"""Filter graphs: what happens to picture and sound between decoder and encoder."""

from __future__ import annotations

import math
from dataclasses import dataclass
from fractions import Fraction

from ...media import PTS_HZ, AudioSettings, Fields, VideoSettings, rate_text
from ..tone_mapping import HDR
from .scaling import sized

# Downmix to two channels. The centre carries the dialogue and stays the loudest part of each side; the limiter
# catches the rare sum above full scale instead of turning everything down.
CENTRE, FRONT, SURROUND = 0.74, 0.60, 0.38
ON_TICK = 0.05
ROUNDING_S = 0.00001
LEAST_GAP_S = 0.006
"""Below it a gap is a rounded time stamp; people notice sound that is three times as late."""
NEAR_ZERO_S = 0.002
BAND_PIXELS = 6
"""As wide as bands are for each step between them."""
COMBED_PIXELS = 20
"""Of 16 x 16 pixels: narrow edges that move a little are combed in so few."""
FILM_CYCLE, MOST_LATE = 5, 0.8
"""Frames in which film comes round; how late in ticks, one of them may come."""
DECIMATE = "decimate=dupthresh=100"
"""Of each five frames the one most like the one before goes, however unlike. With a limit, noise keeps frames that come
twice; the first goes in their place, and all that follow come as much later.
"""
PIXEL_FORMATS = {8: "yuv420p", 10: "yuv420p10le"}


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnText:
    """A text track to draw: a file in the working folder, a track in it, and when in it the title starts."""

    file: str
    track: int
    start_s: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Timing:
    """How pictures are moved in time.

    ``phase_s`` is how far the first one lies behind a tick of the frame rate: everything comes that much earlier, so
    that no rounded time stamp falls half-way between two ticks. ``cut_before``: what lies before zero is not shown.
    ``leads``: nor are pictures that come once more because later ones refer to them. ``lead_s``: so much was read
    before the beginning, to be dropped. ``stands_s``: the last picture stands so much longer, for whoever cuts there:
    where rates change, the one that makes them even would drop it.
    """

    phase_s: float = 0.0
    cut_before: bool = False
    lead_s: float = 0.0
    leads: bool = False
    stands_s: float = 0.0


def graph(
    made: VideoSettings, source: str, picture: str | None, text: DrawnText | None, timing: Timing | None = None
) -> str:
    """The graph from stream ``source`` to ``[out]``: fields, rate, drawn-in subtitles, size, pixel shape and format.

    ``picture`` is the stream of a picture subtitle.
    """
    timing = timing or Timing()
    steps = [*_once(timing), *_fields(made), *_times(made, timing), *_denoised(made), *_turned(made)]
    steps += _crop(made) if picture is None else []
    head = f"[{source}]{','.join(steps)}" if steps else f"[{source}]null"
    shape = made.sample_aspect
    tail = [
        *sized(made),
        *_debanded(made),
        f"setsar={shape.numerator}/{shape.denominator}",
    ]
    if text is not None:
        tail += _drawn(text)
    tail.append(f"format={PIXEL_FORMATS[made.bit_depth]}")
    if picture is None:
        return f"{head},{','.join(tail)}[out]"
    # in all its depth: what is brighter than white paper lies close together
    bright = made.colour_from is not None and made.colour_from.dynamic_range in HDR
    deep = ":format=yuv420p10" if bright or made.bit_depth > 8 else ""
    # drawn where they stand on the whole picture, and cut with it
    tail = [*_crop(made), *tail]
    # in ticks finer than pictures, or a subtitle between two of them waits for the next but one
    head += ",settb=AVTB"
    return f"{head}[seen];[seen][{picture}]overlay=eof_action=pass{deep},{','.join(tail)}[out]"


def just_before(moment_s: float) -> str:
    """A moment as the engine is told of it, such that what comes just then is behind it however times are rounded."""
    return f"{max(moment_s - ROUNDING_S, ROUNDING_S):.6f}"


def phase_of(first_s: float, rate: Fraction) -> float:
    """How far a moment lies behind the tick of a rate to which it is moved: the next one, or one just before it."""
    ticks = first_s * float(rate)
    whole = math.floor(ticks) if ticks - math.floor(ticks) < ON_TICK else math.ceil(ticks)
    return first_s - whole / float(rate)


def _once(timing: Timing) -> list[str]:
    return ["select='isnan(prev_selected_pts)+gt(pts,prev_selected_pts)'"] if timing.leads else []


def _times(made: VideoSettings, timing: Timing) -> list[str]:
    cut = ["settb=AVTB", f"setpts=PTS-({timing.lead_s:.6f})/TB"] if timing.lead_s else []
    cut += ["trim=start=0"] if timing.cut_before or timing.lead_s else []
    if made.variable_rate:
        return [*cut, *(_film_among_video(made.frame_rate) if made.fields is Fields.MATCH else [])]
    moved = ["settb=AVTB", f"setpts=PTS-({timing.phase_s:.6f})/TB"] if timing.phase_s else []
    stepped = [f"framestep={made.every}"] if made.every > 1 else []
    stepped += [f"tpad=stop_mode=clone:stop_duration={timing.stands_s:.3f}"] if timing.stands_s else []
    return [*cut, *moved, *stepped, f"fps={rate_text(made.frame_rate)}"]


TURNS = {0: [], 90: ["transpose=cclock"], 180: ["hflip", "vflip"], 270: ["transpose=clock"]}
"""By degrees anticlockwise."""


def _turned(made: VideoSettings) -> list[str]:
    """From how the engine gives a picture to how it is to be seen."""
    done = 0 if _turned_back(made) else made.rotation_from
    return TURNS[(made.rotation - done) % 360]


def _turned_back(made: VideoSettings) -> list[str]:
    """To how it is stored, where its lines are looked at: fields lie in the stored ones."""
    return TURNS[-made.rotation_from % 360] if made.fields is not Fields.LEAVE else []


def _crop(made: VideoSettings) -> list[str]:
    cut = made.crop.turned(made.rotation)
    if not cut.any:
        return []
    return [f"crop=iw-{cut.left + cut.right}:ih-{cut.top + cut.bottom}:{cut.left}:{cut.top}"]


def _denoised(made: VideoSettings) -> list[str]:
    """In space and time: what stands still is smoothed more."""
    strength = made.denoise
    if not strength:
        return []
    smoothed = f"hqdn3d={strength:.2f}:{strength * 0.75:.2f}:{strength * 1.2:.2f}:{strength * 0.9:.2f}"
    return _each_field(made, smoothed)


def _debanded(made: VideoSettings) -> list[str]:
    """In all the depth that comes out: what lies between two steps has a place there."""
    if not made.deband:
        return []
    step, pixels = f"{made.deband / 255:.4f}", round(made.deband * BAND_PIXELS)
    deep = [f"format={PIXEL_FORMATS[made.bit_depth]}"] if made.bit_depth > 8 else []
    smoothed = f"deband=1thr={step}:2thr={step}:3thr={step}:4thr=0.003:range={pixels}:blur=1"
    return [*deep, *_each_field(made, smoothed)]


def _each_field(made: VideoSettings, one: str) -> list[str]:
    """Of fields that are kept, each by itself: one beside the other for as long."""
    return ["il=l=d:c=d", one, "il=l=i:c=i"] if made.fields is Fields.KEEP else [one]


def _drawn(text: DrawnText) -> list[str]:
    """Drawn at the times of the text's own file, from which a title may be a part."""
    draw = f"subtitles=filename={text.file}:si={text.track}"
    if not text.start_s:
        return [draw]
    return [f"setpts=PTS+{text.start_s:.3f}/TB", draw, f"setpts=PTS-{text.start_s:.3f}/TB"]


def _fields(made: VideoSettings) -> list[str]:
    order = "tff" if made.top_field_first else "bff"
    back = _turned_back(made)
    if made.fields in (Fields.JOIN, Fields.DOUBLE):
        return [*back, _deinterlace(made.deinterlacer, order, each=made.fields is Fields.DOUBLE)]
    if made.fields is Fields.MATCH or (made.fields is Fields.RESTORE and made.film_in_fields):
        # match the fields that were one frame of film, deinterlace what has no match
        matched = f"fieldmatch=order={order}:combmatch=full:combpel={COMBED_PIXELS}:cthresh={made.comb_limit}"
        whole = [*back, matched, _deinterlace(made.deinterlacer, order, each=False, which="interlaced")]
        # of film spread over fields, one frame in five comes twice
        return whole if made.fields is Fields.MATCH else [*whole, DECIMATE]
    return [f"setfield={order}"] if made.fields is Fields.KEEP else back


def _film_among_video(rate: Fraction) -> list[str]:
    """Of each five frames one that comes twice is dropped, and the four stand equally long.

    Film that is spread over fields has a frame twice or a longer one in each five ticks of ``rate``; from there on each
    frame comes a tick and a quarter behind the one before, for as long as that is at most so late. In the expression, 0
    is whether there is film, 1 how many ticks ago the last frame came, 2 how late the frame comes as one of film.
    """
    tick = PTS_HZ / rate
    late = f"(PREV_OUTPTS+{float(tick * 5 / 4):.3f}-PTS)/{float(tick):.3f}"
    film = (
        f"st(1,(PTS-PREV_INPTS)/{float(tick):.3f});st(2,{late});"
        "if(isnan(PREV_INPTS),st(0,0),if(between(ld(1),1.2,2.2),st(0,1)));"
        f"if(ld(0)*between(ld(2),-0.05,{MOST_LATE}),PTS+ld(2)*{float(tick):.3f},st(0,between(ld(1),1.2,2.2));PTS)"
    )
    return [f"mpdecimate=max=-{FILM_CYCLE}", f"settb=1/{PTS_HZ}", f"setpts='{film}'"]


def _deinterlace(name: str, order: str, *, each: bool, which: str = "all") -> str:
    if name == "w3fdif":
        return f"w3fdif=mode={'field' if each else 'frame'}:parity={order}:deint={which}"
    return f"{name}=mode={'send_field' if each else 'send_frame'}:parity={order}:deint={which}"


SNAPPED = f"asetpts='PTS-if(lt(abs(STARTT),{NEAR_ZERO_S}),STARTPTS,0)'"
"""Sound that begins so near zero begins at it: a rounded time would leave a hole or cut samples off."""


def audio_filters(made: AudioSettings, early_s: float = 0.0, *, from_zero: bool = False, snapped: bool = False) -> str:
    """Every sample at its own time, then a downmix where channels go from surround to two or one.

    Gaps are filled and overlaps cut from ``LEAST_GAP_S`` on. The first moment is where everything else has it, which is
    ``early_s`` earlier than on the source; ``from_zero`` has silence before it, ``snapped`` none for a rounded time.
    """
    steps = [f"asetpts=PTS-({early_s:.6f})/TB"] if early_s else []
    steps += [SNAPPED] if snapped else []
    first = 0 if from_zero else max(0, round(-early_s * made.sample_rate))
    steps.append(f"aresample=async=1:min_hard_comp={LEAST_GAP_S}:first_pts={first}")
    if made.source_channels >= 5 and made.channels <= 2:
        left = f"FL={FRONT}*FL+{CENTRE}*FC+{SURROUND}*BL+{SURROUND}*SL"
        right = f"FR={FRONT}*FR+{CENTRE}*FC+{SURROUND}*BR+{SURROUND}*SR"
        # the layout is fixed first, so that back and side channels both have a place
        steps += ["aformat=channel_layouts=7.1", f"pan=stereo|{left}|{right}", "alimiter=limit=0.95:level=0"]
    if made.gain_db:
        steps.append(f"volume={made.gain_db:.1f}dB")
        if made.gain_db > 0:
            steps.append("alimiter=limit=0.95:level=0")
    return ",".join(steps)
