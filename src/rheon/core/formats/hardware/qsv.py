"""QSV, by which the engine reaches the encoders of one maker's graphics chips with that maker's own library."""

from __future__ import annotations

from ...catalogue import later
from ...media import VideoSettings
from .family import DEVICE, Block, Family, average, numbered_level


def _opened(node: str) -> list[str]:
    return ["-init_hw_device", f"qsv={DEVICE}:hw,child_device={node}"]


def _arguments(made: VideoSettings) -> list[str]:
    profile = ["-profile:v", made.profile] if made.profile else []
    # the library writes HEVC's levels times ten as well
    return [
        "-preset", "medium", *profile, *numbered_level(made, 10), *average(made),
        "-bf", str(made.b_frames), "-refs", str(made.reference_frames), "-b_strategy", "0",
    ]  # fmt: skip


QSV = Family(
    name="qsv",
    label="QSV",
    about=later("graphics chips inside a processor, by their maker's library"),
    nodes="dri/renderD*",
    opened=_opened,
    uploaded={8: ("format=nv12",), 10: ("format=p010le",)},
    blocks={
        "h264": Block(name="h264_qsv", profiles=("baseline", "main", "high"), arguments=_arguments),
        "hevc": Block(name="hevc_qsv", profiles=("main",), ten_bit_profile="main10", arguments=_arguments),
    },
)
