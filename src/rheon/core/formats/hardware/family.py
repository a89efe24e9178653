"""What a family of encoders in hardware is."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from ...media import Balance, VideoSettings
from ..codec import VideoEncoder

DEVICE = "encoding"
"""What the engine calls the opened device."""
BITS_PER_PIXEL = {"h264": 0.115, "hevc": 0.081, "vp9": 0.088}
"""From experience, until it was measured: what is gained in time is lacking in choosing (about a third more bits)."""
ONLY_PRESET = "usual"


def unopened(node: str) -> list[str]:
    """Where the encoder finds its device by itself."""
    return []


@dataclass(frozen=True, slots=True, kw_only=True)
class Block:
    """What a family makes one codec with; fields as ``VideoEncoder``'s. It holds mean rates, in one pass."""

    name: str
    profiles: tuple[str, ...]
    ten_bit_profile: str | None = None
    b_frames: int = 2
    arguments: Callable[[VideoSettings], list[str]]


@dataclass(frozen=True, slots=True, kw_only=True)
class Family:
    """Encoders that one interface of the system reaches.

    ``name`` is ours, ``label`` the interface's own, ``about`` what it reaches, as a message; ``nodes`` are its device
    nodes, as a pattern under ``/dev``. ``opened`` are the arguments that open such a node, ``uploaded`` the filters
    that hand pictures over, by their bit depth. ``blocks`` are what it has, by codec; ``pixels_per_s`` is what such
    hardware was made for.
    """

    name: str
    label: str
    about: str
    nodes: str
    opened: Callable[[str], list[str]] = unopened
    uploaded: Mapping[int, tuple[str, ...]]
    pixels_per_s: float = 250e6
    blocks: Mapping[str, Block]

    def encoder(self, codec: str) -> VideoEncoder:
        """Raises ``KeyError`` where it makes no such codec."""
        block = self.blocks[codec]
        return VideoEncoder(
            name=block.name,
            hardware=self.name,
            presets={ONLY_PRESET: self.pixels_per_s},
            preset=(ONLY_PRESET,) * len(Balance),
            bits_per_pixel=BITS_PER_PIXEL[codec],
            profiles=block.profiles,
            ten_bit_profile=block.ten_bit_profile,
            two_passes=False,
            b_frames=block.b_frames,
            arguments=lambda made, at_pass: block.arguments(made),
        )


def average(made: VideoSettings) -> list[str]:
    """A mean rate inside peak and buffer."""
    return ["-b:v", str(made.bitrate_bps), "-maxrate", str(made.peak_bps), "-bufsize", str(made.buffer_bits)]


def numbered_level(made: VideoSettings, times: int) -> list[str]:
    """A level as the number that is written for it; ``times`` is what the codec's standard multiplies it by."""
    if made.level is None:
        return []
    # level 1b of H.264 is written as 11, with a flag that the encoder sets by the rate
    return ["-level", "11" if made.level == "1b" else f"{round(float(made.level) * times)}"]
