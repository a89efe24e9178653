"""Which sectors of a program stream pass at the border of a stretch: each gate is one border's judgement.

Pictures run ahead of their sound in the data, so what belongs to a stretch is told by time stamps and not by sectors.
A frame of sound that a border tears is completed on one side and left out on the other.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Protocol

from ...media import PTS_HZ
from ..bluray.transport_stream import packet_pts
from ..dvd.navigation import is_navigation, read_navigation
from .sound_packets import drop_tail, keep_tail, packet_at, stream_of

PICTURES = range(0xE0, 0xF0)
LONGEST_LAP_TICKS = 2 * PTS_HZ
EARLY_TICKS = PTS_HZ // 25
"""Sound that begins so little before its stretch is the stretch's own: packets hold several frames."""


class Gate(Protocol):
    """Judges whole sectors, and may cut torn frames out of them."""

    def passes(self, data: bytearray, at: int) -> bool:
        """Whether the sector at ``at`` passes."""
        ...


@dataclass(slots=True)
class OnlyPictures:
    """For the unit before a stretch: its pictures are referred to, its sound has been heard."""

    def passes(self, data: bytearray, at: int) -> bool:
        return data[packet_at(data, at) + 3] in PICTURES


@dataclass(slots=True)
class NoEarlyLines:
    """For a title's first stretch: no line of these subtitle streams that began before ``start`` (a time stamp)."""

    streams: frozenset[int]
    start: int
    begun: set[int] = field(default_factory=set)

    def passes(self, data: bytearray, at: int) -> bool:
        packet = packet_at(data, at)
        stream = stream_of(data, packet)
        if stream not in self.streams or stream is None:
            return True
        pts = packet_pts(data, packet)
        if pts is not None and pts >= self.start:
            self.begun.add(stream)
        return stream in self.begun


@dataclass(slots=True)
class FromStart:
    """For a stretch whose data do not follow those before it: sound and subtitles from ``start`` (a time stamp) on."""

    start: int
    begun: set[int] = field(default_factory=set)

    def passes(self, data: bytearray, at: int) -> bool:
        packet = packet_at(data, at)
        stream = stream_of(data, packet)
        if stream is None or stream in self.begun:
            return True
        pts = packet_pts(data, packet)
        if pts is None or pts < self.start - EARLY_TICKS:
            return False
        self.begun.add(stream)
        drop_tail(data, at, packet)
        return True


@dataclass(slots=True)
class UntilEnd:
    """For the data behind a stretch: its last sound and subtitles, up to ``end`` (a time stamp), and then no more."""

    end: int
    ended: set[int] = field(default_factory=set)
    over: bool = False

    def passes(self, data: bytearray, at: int) -> bool:
        if is_navigation(data, at):
            pack = read_navigation(data, at)
            past = pack.start_pts - self.end if pack else 0
            # another clock begins, or the stretch's time is long over
            self.over = self.over or not -PTS_HZ < past < LONGEST_LAP_TICKS
            return False
        packet = packet_at(data, at)
        stream = stream_of(data, packet)
        if self.over or stream is None or stream in self.ended:
            return False
        pts = packet_pts(data, packet)
        if pts is None:
            return True
        if pts >= self.end:
            self.ended.add(stream)
            return keep_tail(data, at, packet)
        return pts > self.end - LONGEST_LAP_TICKS
