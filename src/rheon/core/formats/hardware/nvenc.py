"""NVENC, the encoder of one maker's graphics cards, reached by that maker's driver."""

from __future__ import annotations

from ...catalogue import later
from ...media import VideoSettings
from .family import Block, Family, average, numbered_level


def _coded(made: VideoSettings, times: int) -> list[str]:
    profile = ["-profile:v", made.profile] if made.profile else []
    return [
        "-preset", "p5", "-tune", "hq", *profile, *numbered_level(made, times), "-rc", "vbr", *average(made),
        "-bf", str(made.b_frames), "-dpb_size", str(made.reference_frames), "-b_ref_mode", "disabled",
    ]  # fmt: skip


def _h264(made: VideoSettings) -> list[str]:
    return _coded(made, 10)


def _hevc(made: VideoSettings) -> list[str]:
    return [*_coded(made, 30), "-tier", "main"]


NVENC = Family(
    name="nvenc",
    label="NVENC",
    about=later("graphics cards, by their maker's driver"),
    nodes="nvidia[0-9]*",
    uploaded={8: ("format=yuv420p",), 10: ("format=p010le",)},
    blocks={
        "h264": Block(name="h264_nvenc", profiles=("baseline", "main", "high"), arguments=_h264),
        "hevc": Block(name="hevc_nvenc", profiles=("main",), ten_bit_profile="main10", arguments=_hevc),
    },
)
