"""The decisions about the picture, as people read and pin them. Pure."""

from __future__ import annotations

from fractions import Fraction

from ..formats import PLAYED_MOST, VIDEO_CODECS, VideoEncoder, codec_name, levels_of, video_encoder
from ..media import Action, Fields, Reason, VideoSettings, aspect_text
from .cadence import DEINTERLACERS
from .colour import CHOICES, NAMES, family
from .crop import Crop, crop_decision
from .plan import Choice, Decision, PlanRequest, Range
from .video import VideoPlan, Why

FIELD_TEXTS = {
    Fields.LEAVE: "left as they are",
    Fields.JOIN: "joined in pairs",
    Fields.DOUBLE: "a frame of each",
    Fields.RESTORE: "film restored",
}
USUAL_LINES = (2160, 1440, 1080, 720, 576, 480, 360, 240)
USUAL_RATES = ("23.976", "24", "25", "29.97", "30", "50", "59.94", "60")
ASPECTS = ("4:3", "16:9", "2.35", "2.39")


def picture_decisions(request: PlanRequest, plan: VideoPlan) -> tuple[Decision, ...]:
    """Everything about the picture, the coarse before the fine."""
    made = plan.settings
    if made.action is Action.COPY or plan.why is None:
        return _copied(request, plan)
    why, encoder = plan.why, video_encoder(made.codec)
    return (
        crop_decision(request, Crop(borders=made.crop, reason=why.crop)),
        *_shape(request, made, why),
        *_motion(request, made, why),
        *_codec(request, plan, encoder),
        *_colours(request, made, why),
        *_rate(request, made, encoder),
    )


def _copied(request: PlanRequest, plan: VideoPlan) -> tuple[Decision, ...]:
    made, untouched = plan.settings, Reason(code="stream_untouched")
    codec = Decision(
        key="picture.codec",
        value="copy",
        text=f"{codec_name(made.codec)}, copied",
        reason=_why(request, "picture.codec", untouched),
        pinned=_pinned(request, "picture.codec"),
        choices=(
            Choice(value="copy", text=f"{codec_name(made.codec)}, copied"),
            *(Choice(value=name, text=codec_name(name)) for name in PLAYED_MOST),
        ),
    )
    size = Decision(
        key="picture.size",
        value=str(made.height),
        text=f"{made.width} × {made.height}",
        reason=untouched,
        ranges=(Range(low=16, high=4320, unit="lines"),),
    )
    return size, codec


def _pinned(request: PlanRequest, key: str) -> bool:
    return request.pins.get(key, "auto") != "auto"


def _why(request: PlanRequest, key: str, reason: Reason) -> Reason:
    return Reason(code="pinned") if _pinned(request, key) else reason


def _shape(request: PlanRequest, made: VideoSettings, why: Why) -> tuple[Decision, ...]:
    source = request.title.video
    assert source is not None
    shape = "" if made.sample_aspect == 1 else f", shown {_shown(made)}"
    lines = [line for line in USUAL_LINES if line < source.height]
    size = Decision(
        key="picture.size",
        value=str(made.height),
        text=f"{made.width} × {made.height}{shape}",
        reason=why.size,
        pinned=_pinned(request, "picture.size"),
        choices=tuple(
            Choice(value=str(line), text=f"{line} lines")
            for line in dict.fromkeys([source.height, *lines, made.height])
        ),
        ranges=(Range(low=16, high=4320, unit="lines"),),
    )
    aspect = Decision(
        key="picture.aspect",
        value=request.pins.get("picture.aspect", "auto"),
        text=_shown(made),
        reason=_why(request, "picture.aspect", Reason(code="aspect_of_source")),
        pinned=_pinned(request, "picture.aspect"),
        fine=True,
        choices=(Choice(value="auto", text="as on the source"), *(Choice(value=a, text=a) for a in ASPECTS)),
    )
    square = made.sample_aspect == 1
    pixels = Decision(
        key="picture.pixels",
        value="square" if square else "stored",
        text="square" if square else f"{made.sample_aspect.numerator}:{made.sample_aspect.denominator}",
        reason=_why(request, "picture.pixels", Reason(code="pixels_square" if square else "pixels_stored")),
        pinned=_pinned(request, "picture.pixels"),
        fine=True,
        choices=(Choice(value="square", text="square"), Choice(value="stored", text="as stored")),
    )
    return size, aspect, pixels


def _motion(request: PlanRequest, made: VideoSettings, why: Why) -> tuple[Decision, ...]:
    text = f"{float(made.frame_rate):.3f}".rstrip("0").rstrip(".")
    source = request.title.video
    assert source is not None
    choices = (Choice(value="auto", text="as proposed"), *(Choice(value=r, text=r) for r in USUAL_RATES))
    cadence = Decision(
        key="picture.cadence",
        value=request.pins.get("picture.cadence", "auto"),
        text=f"{text} frames/s",
        reason=why.cadence,
        pinned=_pinned(request, "picture.cadence"),
        choices=choices,
        ranges=(Range(low=5, high=120, unit="a second"),),
    )
    whole = made.fields is Fields.LEAVE and not made.combed
    fields = Decision(
        key="picture.fields",
        value=made.fields.value,
        text="none, whole frames" if whole else FIELD_TEXTS[made.fields],
        reason=why.fields,
        pinned=_pinned(request, "picture.fields"),
        fine=whole,
        choices=tuple(Choice(value=item.value, text=FIELD_TEXTS[item]) for item in Fields),
    )
    if made.fields is Fields.LEAVE:
        return cadence, fields
    deinterlacer = Decision(
        key="picture.deinterlacer",
        value=made.deinterlacer,
        text=DEINTERLACERS[made.deinterlacer],
        reason=_why(request, "picture.deinterlacer", Reason(code="best_deinterlacer")),
        pinned=_pinned(request, "picture.deinterlacer"),
        fine=True,
        choices=tuple(Choice(value=name, text=text) for name, text in DEINTERLACERS.items()),
    )
    return cadence, fields, deinterlacer


def _codec(request: PlanRequest, plan: VideoPlan, encoder: VideoEncoder) -> tuple[Decision, ...]:
    made, why = plan.settings, plan.why
    assert why is not None
    level = f" @ {made.level}" if made.level else ""
    name = f"{codec_name(made.codec)} {_profile_name(made.codec, made.profile)}{level}".strip()
    codec = Decision(
        key="picture.codec",
        value=made.codec,
        text=name,
        reason=why.codec,
        pinned=_pinned(request, "picture.codec"),
        choices=tuple(Choice(value=codec, text=codec_name(codec)) for codec in plan.options),
    )
    profiles = list(encoder.profiles)
    if encoder.ten_bit_profile:
        profiles.append(encoder.ten_bit_profile)
    profile = Decision(
        key="picture.profile",
        value=made.profile or "none",
        text=_profile_name(made.codec, made.profile) or "none",
        reason=why.profile,
        pinned=_pinned(request, "picture.profile"),
        fine=True,
        choices=tuple(Choice(value=p, text=_profile_name(made.codec, p)) for p in dict.fromkeys(profiles)),
    )
    known = levels_of(made.codec, made.profile)
    level_decision = Decision(
        key="picture.level",
        value=made.level or "none",
        text=made.level or "none",
        reason=why.level if known else Reason(code="no_levels"),
        pinned=_pinned(request, "picture.level"),
        fine=True,
        choices=tuple(Choice(value=name, text=name) for name in known),
    )
    return codec, profile, level_decision


def _colours(request: PlanRequest, made: VideoSettings, why: Why) -> tuple[Decision, ...]:
    encoder = video_encoder(made.codec)
    depths = ("8", "10") if encoder.ten_bit_profile else ("8",)
    depth = Decision(
        key="picture.depth",
        value=str(made.bit_depth),
        text=f"{made.bit_depth} bits",
        reason=why.depth,
        pinned=_pinned(request, "picture.depth"),
        fine=True,
        choices=tuple(Choice(value=d, text=f"{d} bits") for d in depths),
    )
    if made.colour is None:
        return (depth,)
    written = "" if VIDEO_CODECS[made.codec].names_colour else ", not written"
    colour = Decision(
        key="picture.colour",
        value=family(made.colour),
        text=f"{NAMES[family(made.colour)]}, limited range{written}",
        reason=why.colour,
        pinned=_pinned(request, "picture.colour"),
        fine=True,
        choices=tuple(Choice(value=c, text=NAMES[c]) for c in CHOICES),
    )
    return depth, colour


def _rate(request: PlanRequest, made: VideoSettings, encoder: VideoEncoder) -> tuple[Decision, ...]:
    return (_rate_decision(request, made, encoder), *_buffers(request, made), *_work(request, made, encoder))


def _rate_decision(request: PlanRequest, made: VideoSettings, encoder: VideoEncoder) -> Decision:
    said = request.pins.get("picture.rate", "auto")
    if said != "auto":
        value = said
    else:
        value = f"quality:{made.quality}" if made.quality is not None else f"average:{(made.bitrate_bps or 0) // 1000}"
    kbps = f"{(made.bitrate_bps or 0) / 1000:.0f} kb/s on average"
    text = f"constant quality {made.quality}" if made.quality is not None else kbps
    values: dict[str, object] = {
        "balance": request.balance.value,
        "peak_bps": made.peak_bps,
        "buffer_bits": made.buffer_bits,
    }
    if said.startswith("size:"):
        text = f"{text}, for {said[5:]} MB"
        reason = Reason(code="rate_for_size", values=values)
    else:
        reason = Reason(code="rate_by_hand" if said != "auto" else "balance_rate", values=values)
    low, high = encoder.scale
    scale = (Range(low=low, high=high, unit="quality", before="quality:"),) if encoder.quality else ()
    return Decision(
        key="picture.rate",
        value=value,
        text=text,
        reason=reason,
        pinned=_pinned(request, "picture.rate"),
        ranges=(
            *scale,
            Range(low=32, high=200_000, unit="kb/s on average", before="average:"),
            Range(low=1, high=200_000, unit="MB for the file", before="size:"),
        ),
    )


def _buffers(request: PlanRequest, made: VideoSettings) -> tuple[Decision, ...]:
    inside = Reason(code="inside_level_and_device")
    peak, buffer = (made.peak_bps or 0) // 1000, (made.buffer_bits or 0) // 1000
    return (
        Decision(
            key="picture.peak", value=str(peak), text=f"{peak} kb/s", reason=_why(request, "picture.peak", inside),
            pinned=_pinned(request, "picture.peak"), fine=True, ranges=(Range(low=64, high=400_000, unit="kb/s"),),
        ),
        Decision(
            key="picture.buffer", value=str(buffer), text=f"{buffer} kbit",
            reason=_why(request, "picture.buffer", inside), pinned=_pinned(request, "picture.buffer"), fine=True,
            ranges=(Range(low=16, high=800_000, unit="kbit"),),
        ),
    )  # fmt: skip


def _work(request: PlanRequest, made: VideoSettings, encoder: VideoEncoder) -> tuple[Decision, ...]:
    seconds = float(Fraction(made.keyframe_frames) / made.frame_rate)
    keyframes = Decision(
        key="picture.keyframes",
        value=f"{seconds:.1f}",
        text=f"every {made.keyframe_frames} frames ({seconds:.1f} s)",
        reason=_why(request, "picture.keyframes", Reason(code="usual_keyframes")),
        pinned=_pinned(request, "picture.keyframes"),
        fine=True,
        ranges=(Range(low=0.1, high=60, unit="s"),),
    )
    passes = Decision(
        key="picture.passes",
        value=str(made.passes),
        text="two" if made.passes == 2 else "one",
        reason=_why(request, "picture.passes", Reason(code="two_passes" if made.passes == 2 else "one_pass")),
        pinned=_pinned(request, "picture.passes"),
        fine=True,
        choices=tuple(
            Choice(value=str(n), text=text)
            for n, text in ((1, "one"), (2, "two"))
            if n == 1 or (encoder.two_passes and made.bitrate_bps is not None)
        ),
    )
    effort = Decision(
        key="picture.effort",
        value=made.effort,
        text=_effort(made.effort),
        reason=_why(
            request, "picture.effort", Reason(code="effort_of_balance", values={"balance": request.balance.value})
        ),
        pinned=_pinned(request, "picture.effort"),
        fine=True,
        choices=tuple(Choice(value=name, text=_effort(name)) for name in encoder.efforts),
    )
    return passes, keyframes, effort


def _effort(name: str) -> str:
    return f"speed {name}" if name.isdigit() else name


def _shown(made: VideoSettings) -> str:
    return aspect_text(made.sample_aspect * made.width / made.height)


def _profile_name(codec: str, profile: str | None) -> str:
    return VIDEO_CODECS[codec].profiles.get(profile or "", profile or "")
