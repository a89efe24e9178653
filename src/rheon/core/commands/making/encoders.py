"""The arguments of encoders for one output: what all of them share, around what each registry entry says. Pure."""

from __future__ import annotations

from dataclasses import dataclass

from ...formats import AUDIO_CODECS, CONTAINERS, HARDWARE, video_encoder
from ...media import Action, AudioSettings, Fields, VideoSettings, rate_text
from .filters import audio_filters

TRANSFERS = {"bt470bg": "smpte170m"}


def opened_hardware(made: VideoSettings | None) -> list[str]:
    """What opens the device of an encoder in hardware, before any input; nothing for one in software."""
    family = _family(made)
    return HARDWARE[family].opened(made.device) if made and family else []


def handed_over(made: VideoSettings) -> tuple[str, ...]:
    """The last filters, which bring pictures to where an encoder in hardware takes them; none for one in software."""
    family = _family(made)
    return HARDWARE[family].uploaded[made.bit_depth] if family else ()


def _family(made: VideoSettings | None) -> str | None:
    if made is None or made.action is Action.COPY:
        return None
    return video_encoder(made.codec, made.encoder).hardware


def video_arguments(made: VideoSettings, container: str, at_pass: int) -> list[str]:
    """Everything about the picture; ``at_pass`` is 1 or 2 where there are two, else 0."""
    known = CONTAINERS[container].tags.get(made.codec)
    tag = ["-tag:v", known] if known else []
    if made.action is Action.COPY:
        # without times of its own a container counts pictures, and has to be told how fast
        counted = [] if CONTAINERS[container].keeps_start else ["-r", rate_text(made.frame_rate)]
        return ["-c:v", "copy", *counted, *tag]
    if made.variable_rate:
        # each picture's own time needs finer ticks than those of a rate
        times = ["-fps_mode", "vfr", "-enc_time_base", "1/90000"]
    else:
        times = ["-fps_mode", "passthrough" if CONTAINERS[container].keeps_start else "cfr"]
    encoder = video_encoder(made.codec, made.encoder)
    of_fields = encoder.field_arguments if made.fields is Fields.KEEP else ()
    return [
        "-c:v", encoder.name, *times, "-g", str(made.keyframe_frames), *tag, *of_fields,
        *encoder.arguments(made, at_pass), *_colour(made),
    ]  # fmt: skip


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
    codec = AUDIO_CODECS[made.codec]
    rate = [f"-b:a:{place}", str(made.bitrate_bps)] if made.bitrate_bps and codec.bits is None else []
    shape = [f"-ar:a:{place}", str(made.sample_rate), f"-ac:a:{place}", str(made.channels)]
    around = codec.encoder.surround_arguments if codec.encoder and made.channels > 2 else ()
    family = [part for flag, value in around for part in (f"{flag}:a:{place}", value)]
    heard = [f"-filter:a:{place}", audio_filters(made, early_of(made, placing))] if placing.filtered else []
    return [f"-c:a:{place}", codec.encoder.name if codec.encoder else codec.name, *rate, *shape, *family, *heard]


def early_of(made: AudioSettings, placing: Placing) -> float:
    """How much earlier the samples must come, the encoder's own silence included."""
    return placing.early_s + untold_priming_s(made, placing.container)


def untold_priming_s(made: AudioSettings, container: str) -> float:
    """The silence that the encoder puts in front where the container does not tell players to leave it out."""
    encoder = AUDIO_CODECS[made.codec].encoder
    if encoder is None or CONTAINERS[container].tells_priming:
        return 0.0
    return encoder.priming / made.sample_rate


def _colour(made: VideoSettings) -> list[str]:
    """What the stream says of its colours."""
    if made.colour is None:
        return []
    colour = made.colour
    return [
        "-colorspace", colour.matrix, "-color_primaries", colour.primaries,
        "-color_trc", TRANSFERS.get(colour.transfer, colour.transfer), "-color_range", "tv",
    ]  # fmt: skip
