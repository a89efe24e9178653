"""What people want of a file."""

from __future__ import annotations

from enum import StrEnum


class Balance(StrEnum):
    """The choice between size, fidelity and time, from small to large."""

    LEAN = "lean"
    LIGHT = "light"
    EVEN = "even"
    FULL = "full"
    RICH = "rich"

    @property
    def step(self) -> int:
        return list(Balance).index(self)


class SoundWish(StrEnum):
    """Whether people want surround where there is some."""

    SURROUND = "surround"
    STEREO = "stereo"


class SubtitleWish(StrEnum):
    """Which subtitles people want without asking: those needed to follow, only forced lines, always, or never."""

    NEEDED = "needed"
    FORCED = "forced"
    ALWAYS = "always"
    NEVER = "never"
