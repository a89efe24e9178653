"""What Rheon's video encoders can do and how they are set: one row for each codec. Pure data."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from fractions import Fraction

from .plan import Balance

MPEG_RATES = tuple(
    Fraction(*pair)
    for pair in ((24000, 1001), (24, 1), (25, 1), (30000, 1001), (30, 1), (50, 1), (60000, 1001), (60, 1))
)
"""Frame rates that MPEG-2 can say (ISO/IEC 13818-2 table 6-4)."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Encoder:
    """An encoder for one codec.

    ``quality`` is its constant-quality scale at the five balances, empty where it holds no peak at constant quality;
    ``scale`` are the finest and the coarsest value. ``efforts`` go from slow to quick, each with pixels a second on the
    two-core machines Rheon is made for; ``effort`` is the one for each balance. ``bits_per_pixel`` is usual at even
    balance and 720 x 480. ``profiles`` are those it writes at 8 bits, the plainest first.
    """

    codec: str
    quality: tuple[int, ...] = ()
    scale: tuple[int, int] = (0, 51)
    efforts: Mapping[str, float]
    effort: tuple[str, ...]
    bits_per_pixel: float
    profiles: tuple[str, ...] = ()
    ten_bit_profile: str | None = None
    two_passes: bool = True
    references: int = 3
    b_frames: int = 2
    plain_profiles: frozenset[str] = field(default_factory=frozenset)
    frame_rates: tuple[Fraction, ...] = ()
    carries_colour: bool = True

    def quality_at(self, balance: Balance) -> int | None:
        return self.quality[balance.step] if self.quality else None


ENCODERS: dict[str, Encoder] = {
    encoder.codec: encoder
    for encoder in (
        Encoder(
            codec="h264",
            quality=(27, 24, 21, 19, 17),
            efforts={
                "slower": 18e6,
                "slow": 45e6,
                "medium": 85e6,
                "fast": 105e6,
                "veryfast": 150e6,
                "superfast": 210e6,
            },
            effort=("veryfast", "fast", "medium", "medium", "slow"),
            bits_per_pixel=0.085,
            profiles=("baseline", "main", "high"),
            plain_profiles=frozenset({"baseline"}),
        ),
        Encoder(
            codec="hevc",
            quality=(30, 27, 24, 22, 20),
            efforts={"slow": 5e6, "medium": 14e6, "fast": 22e6, "superfast": 45e6, "ultrafast": 60e6},
            effort=("ultrafast", "superfast", "fast", "fast", "medium"),
            bits_per_pixel=0.060,
            profiles=("main",),
            ten_bit_profile="main10",
        ),
        Encoder(
            codec="vp9",
            quality=(40, 36, 32, 28, 24),
            scale=(0, 63),
            efforts={"1": 4e6, "2": 9e6, "3": 12e6, "4": 14e6},
            effort=("4", "4", "4", "3", "2"),
            bits_per_pixel=0.065,
            profiles=("profile0",),
            ten_bit_profile="profile2",
        ),
        Encoder(
            codec="av1",
            quality=(45, 40, 35, 30, 26),
            scale=(1, 63),
            efforts={"6": 8e6, "8": 19e6, "9": 30e6, "10": 38e6, "12": 80e6},
            effort=("12", "10", "10", "9", "8"),
            bits_per_pixel=0.055,
            profiles=("main",),
            ten_bit_profile="main",
            two_passes=False,
        ),
        Encoder(
            codec="mpeg4",
            efforts={"medium": 200e6},
            effort=("medium",) * 5,
            bits_per_pixel=0.155,
            profiles=("simple", "advanced_simple"),
            references=1,
            b_frames=0,
            carries_colour=False,
        ),
        Encoder(
            codec="mpeg2video",
            efforts={"medium": 200e6},
            effort=("medium",) * 5,
            bits_per_pixel=0.230,
            profiles=("main",),
            references=2,
            frame_rates=MPEG_RATES,
        ),
        Encoder(
            codec="wmv2",
            efforts={"medium": 200e6},
            effort=("medium",) * 5,
            bits_per_pixel=0.170,
            references=1,
            b_frames=0,
            carries_colour=False,
        ),
    )
}
PLAYED_MOST = ("h264", "hevc", "mpeg4", "vp9", "av1", "mpeg2video", "wmv2")
"""Codecs in the order in which they are taken where a device plays several."""
SMALLEST_FIRST = ("hevc", "av1", "vp9", "h264", "mpeg4", "mpeg2video", "wmv2")
"""The same for very large pictures."""
