"""VAAPI, by which Linux reaches the encoders of most graphics chips."""

from __future__ import annotations

from ...catalogue import later
from ...media import VideoSettings
from .family import DEVICE, Block, Family, average, numbered_level

PROFILES = {"baseline": "constrained_baseline"}


def _opened(node: str) -> list[str]:
    return ["-init_hw_device", f"vaapi={DEVICE}:{node}", "-filter_hw_device", DEVICE]


def _named(made: VideoSettings, times: int) -> list[str]:
    profile = ["-profile:v", PROFILES.get(made.profile, made.profile)] if made.profile else []
    return [*profile, *numbered_level(made, times)]


def _held(made: VideoSettings) -> list[str]:
    return ["-rc_mode", "VBR", *average(made), "-bf", str(made.b_frames)]


def _h264(made: VideoSettings) -> list[str]:
    return [*_named(made, 10), *_held(made)]


def _hevc(made: VideoSettings) -> list[str]:
    return [*_named(made, 30), "-tier", "main", *_held(made)]


def _vp9(made: VideoSettings) -> list[str]:
    return ["-rc_mode", "VBR", *average(made)]


VAAPI = Family(
    name="vaapi",
    label="VAAPI",
    about=later("most graphics chips, by way of the system"),
    nodes="dri/renderD*",
    opened=_opened,
    uploaded={8: ("format=nv12", "hwupload"), 10: ("format=p010le", "hwupload")},
    blocks={
        "h264": Block(name="h264_vaapi", profiles=("baseline", "main", "high"), arguments=_h264),
        "hevc": Block(name="hevc_vaapi", profiles=("main",), ten_bit_profile="main10", arguments=_hevc),
        "vp9": Block(name="vp9_vaapi", profiles=("profile0",), b_frames=0, arguments=_vp9),
    },
)
