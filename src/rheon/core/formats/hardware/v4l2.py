"""V4L2, by which Linux reaches the encoders of small boards: a mean rate is all that they are told."""

from __future__ import annotations

from ...catalogue import later
from ...media import VideoSettings
from .family import Block, Family

PROFILES = {"baseline": "578", "main": "77", "high": "100"}
"""profile_idc, with constraint_set1_flag for the plain one (ITU-T H.264, A.2)."""


def _h264(made: VideoSettings) -> list[str]:
    profile = ["-profile:v", PROFILES[made.profile]] if made.profile else []
    return [*profile, "-b:v", str(made.bitrate_bps), "-bf", "0"]


V4L2 = Family(
    name="v4l2",
    label="V4L2",
    about=later("small boards, by way of the system"),
    nodes="video[0-9]*",
    uploaded={8: ("format=yuv420p",)},
    pixels_per_s=60e6,
    blocks={"h264": Block(name="h264_v4l2m2m", profiles=("baseline", "main", "high"), b_frames=0, arguments=_h264)},
)
