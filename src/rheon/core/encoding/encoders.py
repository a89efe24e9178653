"""The arguments of each encoder: one function for each codec of the picture, one for sound. Pure."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from ..media import rate_text
from ..media.containers import CONTAINERS
from ..planning import Action, AudioSettings, VideoSettings
from .filters import audio_filters

PASS_LOG = "pass"
NAMES = {
    "h264": "libx264", "hevc": "libx265", "vp9": "libvpx-vp9", "av1": "libsvtav1", "mpeg4": "mpeg4",
    "mpeg2video": "mpeg2video", "wmv2": "wmv2",
    "aac": "aac", "mp3": "libmp3lame", "ac3": "ac3", "eac3": "eac3", "opus": "libopus", "vorbis": "libvorbis",
    "flac": "flac", "mp2": "mp2", "wmav2": "wmav2", "pcm_s16le": "pcm_s16le", "pcm_s24le": "pcm_s24le",
}  # fmt: skip
MPEG4_PROFILES = {"simple": "0", "advanced_simple": "15"}
MPEG2_LEVELS = {"low": "10", "main": "8", "high1440": "6", "high": "4"}
TRANSFERS = {"bt470bg": "smpte170m"}


def video_arguments(made: VideoSettings, container: str, at_pass: int) -> list[str]:
    """Everything about the picture; ``at_pass`` is 1 or 2 where there are two, else 0."""
    tag = ["-tag:v", "hvc1"] if made.codec == "hevc" and container == "mp4" else []
    if made.action is Action.COPY:
        # without times of its own a container counts pictures, and has to be told how fast
        counted = [] if CONTAINERS[container].keeps_start else ["-r", rate_text(made.frame_rate)]
        return ["-c:v", "copy", *counted, *tag]
    if made.variable_rate:
        # each picture's own time needs finer ticks than those of a rate
        times = ["-fps_mode", "vfr", "-enc_time_base", "1/90000"]
    else:
        times = ["-fps_mode", "passthrough" if CONTAINERS[container].keeps_start else "cfr"]
    return [
        "-c:v", NAMES[made.codec], *times, "-g", str(made.keyframe_frames), *tag,
        *_BY_CODEC[made.codec](made, at_pass), *_colour(made),
    ]  # fmt: skip


PRIMING = {"aac": 1024, "mp3": 1105, "ac3": 256, "eac3": 256, "mp2": 481, "wmav2": 2048}
"""Samples of silence that the encoder puts in front, where the container does not tell players to skip them."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Placing:
    """Where a track goes: its number in the output, how much earlier it is to come, and in which container."""

    place: int
    container: str
    early_s: float = 0.0
    filtered: bool = True


def audio_arguments(made: AudioSettings, placing: Placing) -> list[str]:
    """Everything about one audio track of the output."""
    place = placing.place
    if made.action is Action.COPY:
        moved = [f"-bsf:a:{place}", f"setts=ts=TS-({placing.early_s:.6f})/TB"] if placing.early_s else []
        return [f"-c:a:{place}", "copy", *moved]
    rate = [f"-b:a:{place}", str(made.bitrate_bps)] if made.bitrate_bps and not made.codec.startswith("pcm") else []
    shape = [f"-ar:a:{place}", str(made.sample_rate), f"-ac:a:{place}", str(made.channels)]
    family = [f"-mapping_family:a:{place}", "1"] if made.codec == "opus" and made.channels > 2 else []
    heard = [f"-filter:a:{place}", audio_filters(made, early_of(made, placing))] if placing.filtered else []
    return [f"-c:a:{place}", NAMES[made.codec], *rate, *shape, *family, *heard]


def early_of(made: AudioSettings, placing: Placing) -> float:
    """How much earlier the samples must come, the encoder's own silence included."""
    told = CONTAINERS[placing.container].tells_priming
    return placing.early_s + (0.0 if told else PRIMING.get(made.codec, 0) / made.sample_rate)


def _passes(at_pass: int) -> list[str]:
    return ["-pass", str(at_pass), "-passlogfile", PASS_LOG] if at_pass else []


def _rate(made: VideoSettings) -> list[str]:
    """Constant quality or an average, inside peak and buffer."""
    aim = ["-crf", str(made.quality)] if made.quality is not None else ["-b:v", str(made.bitrate_bps)]
    return [*aim, "-maxrate", str(made.peak_bps), "-bufsize", str(made.buffer_bits)]


def _h264(made: VideoSettings, at_pass: int) -> list[str]:
    return [
        "-preset", made.effort, *_optional("-profile:v", made.profile), *_optional("-level", made.level),
        *_rate(made), "-refs", str(made.reference_frames), "-bf", str(made.b_frames), "-b-pyramid", "none",
        *_passes(at_pass),
    ]  # fmt: skip


def _hevc(made: VideoSettings, at_pass: int) -> list[str]:
    values: dict[str, object] = {
        "log-level": "error",
        "level-idc": made.level,
        "high-tier": "0",
        "vbv-maxrate": (made.peak_bps or 0) // 1000,
        "vbv-bufsize": (made.buffer_bits or 0) // 1000,
        "ref": made.reference_frames,
        "bframes": made.b_frames,
        "b-pyramid": "0",
        **({"pass": at_pass, "stats": f"{PASS_LOG}.log"} if at_pass else {}),
    }
    pairs = ":".join(f"{key}={value}" for key, value in values.items() if value is not None)
    aim = ["-crf", str(made.quality)] if made.quality is not None else ["-b:v", str(made.bitrate_bps)]
    return ["-preset", made.effort, *_optional("-profile:v", made.profile), *aim, "-x265-params", pairs]


def _vp9(made: VideoSettings, at_pass: int) -> list[str]:
    profile = {"profile0": "0", "profile2": "2"}.get(made.profile or "profile0", "0")
    common = ["-profile:v", profile, "-deadline", "good", "-cpu-used", made.effort, "-row-mt", "1"]
    common += ["-tile-columns", "1", *_passes(at_pass)]
    if made.quality is not None:
        # constrained quality: the value says how fine, the rate how much it may cost
        ceiling = str((made.peak_bps or 0) // 2)
        return [*common, "-crf", str(made.quality), "-b:v", ceiling, *_ceiling(made)]
    return [*common, "-b:v", str(made.bitrate_bps), *_ceiling(made)]


def _ceiling(made: VideoSettings) -> list[str]:
    return ["-maxrate", str(made.peak_bps), "-bufsize", str(made.buffer_bits)]


def _av1(made: VideoSettings, at_pass: int) -> list[str]:
    if made.quality is not None:
        # the encoder bounds the mean of its window; half the peak leaves room for what is above it
        aim = ["-crf", str(made.quality), "-svtav1-params", f"mbr={max(1, (made.peak_bps or 0) // 2000)}"]
    else:
        aim = ["-b:v", str(made.bitrate_bps)]
    return ["-preset", made.effort, *aim]


def _mpeg4(made: VideoSettings, at_pass: int) -> list[str]:
    return [
        *_optional("-profile:v", MPEG4_PROFILES.get(made.profile or "")),
        *_optional("-level", made.level[0] if made.level else None),
        *_rate(made), "-bf", "0", *_passes(at_pass),
    ]  # fmt: skip


def _mpeg2(made: VideoSettings, at_pass: int) -> list[str]:
    level = MPEG2_LEVELS.get(made.level or "")
    known = ["-profile:v", "4", "-level:v", level] if level else []
    return [*known, *_rate(made), "-bf", str(made.b_frames), *_passes(at_pass)]


def _wmv2(made: VideoSettings, at_pass: int) -> list[str]:
    return [*_rate(made), *_passes(at_pass)]


_BY_CODEC: dict[str, Callable[[VideoSettings, int], list[str]]] = {
    "h264": _h264, "hevc": _hevc, "vp9": _vp9, "av1": _av1, "mpeg4": _mpeg4, "mpeg2video": _mpeg2, "wmv2": _wmv2,
}  # fmt: skip


def _colour(made: VideoSettings) -> list[str]:
    """What the stream says of its colours."""
    if made.colour is None:
        return []
    colour = made.colour
    return [
        "-colorspace", colour.matrix, "-color_primaries", colour.primaries,
        "-color_trc", TRANSFERS.get(colour.transfer, colour.transfer), "-color_range", "tv",
    ]  # fmt: skip


def _optional(flag: str, value: str | None) -> list[str]:
    return [] if value is None else [flag, value]
