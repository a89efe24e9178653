"""What a level of a codec allows."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from math import isqrt


@dataclass(frozen=True, slots=True, kw_only=True)
class Level:
    """Limits of a level in the codec's own blocks: blocks a picture and a second, picture buffer, rates in bits.

    ``block`` is the side of a block in pixels (16 for macroblocks, 1 where the standard counts samples);
    ``buffer_blocks`` bounds the decoded picture buffer, ``0`` where the standard bounds no reference frames. ``sides``
    are the largest width and height in pixels where the standard names them; else the longest side follows from the
    picture (H.264 A.3.1, H.265 A.4.1). ``of_fields``: pictures of two fields may be coded as such.
    """

    name: str
    block: int
    frame_blocks: int
    blocks_per_s: int
    buffer_blocks: int
    bitrate_bps: int
    buffer_bits: int
    sides: tuple[int, int] | None = None
    of_fields: bool = False

    def blocks(self, width: int, height: int) -> int:
        return -(-width // self.block) * -(-height // self.block)

    def holds_picture(self, width: int, height: int, frame_rate: Fraction) -> bool:
        """Whether a picture of this size at this rate stays inside, the bound on one side included."""
        blocks = self.blocks(width, height)
        return (
            blocks <= self.frame_blocks and self._sides_fit(width, height) and blocks * frame_rate <= self.blocks_per_s
        )

    def _sides_fit(self, width: int, height: int) -> bool:
        if self.sides is not None:
            return width <= self.sides[0] and height <= self.sides[1]
        return max(-(-width // self.block), -(-height // self.block)) <= isqrt(8 * self.frame_blocks)


def sampled_level(name: str, frame: int, per_second: int, rate_bps: int, rest: tuple[int, tuple[int, int]]) -> Level:
    """A level that counts luma samples, with buffer and largest sides as ``rest``."""
    buffer_bits, sides = rest
    return Level(
        name=name,
        block=1,
        frame_blocks=frame,
        blocks_per_s=per_second,
        buffer_blocks=0,
        bitrate_bps=rate_bps,
        buffer_bits=buffer_bits,
        sides=sides,
    )
