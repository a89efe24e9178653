"""What an interlaced source becomes on a device: a frame of each field, fields as they are, or a frame of each pair."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from ...devices import DeviceProfile, VideoEntry
from ...media import Fields, Reason, Scan, VideoStream
from ..decisions import Pins
from . import rates
from .frame_rate import JOINED, FieldsChoice
from .geometry import Geometry, geometry_for
from .held_rate import STARVED, HeldRate
from .profile_level import ProfileLevel


@dataclass(frozen=True, slots=True, kw_only=True)
class Receiver:
    """What takes the picture, and the rate that was set for it."""

    device: DeviceProfile
    entry: VideoEntry
    coding: ProfileLevel
    held: HeldRate


def of_interlaced(video: VideoStream, in_fields: VideoStream, receiver: Receiver, pins: Pins) -> FieldsChoice:
    """The way that keeps most of the movement which the device shows, without losing a line or starving the pictures.

    ``video`` is what the crop leaves, ``in_fields`` what it leaves where fields have to stay where they lie.
    """
    if video.scan is not Scan.INTERLACED or not receiver.device.kind.is_seen_large:
        return JOINED
    limit, rate = receiver.entry.frame_rate_limit, video.frame_rate
    doubled: dict[str, object] = {"doubled": f"{float(2 * rate):.4g}"}
    usual = _size(video, rate, receiver, pins)
    if 2 * rate <= limit and _size(video, 2 * rate, receiver, pins) == usual:
        enough = receiver.held.enough_for(usual, rates.counted_rate(2 * rate, Fields.DOUBLE)) >= STARVED
        return FieldsChoice(fields=Fields.DOUBLE, reason=Reason(code="fields_doubled")) if enough else JOINED
    shows = receiver.entry.interlaced and receiver.device.kind.shows_fields
    if rate <= limit and shows and receiver.coding.of_fields and not video.rotation:
        size = _size(in_fields, rate, receiver, pins)
        if size.height == in_fields.height and receiver.held.enough_for(size, rate) >= STARVED:
            return FieldsChoice(fields=Fields.KEEP, reason=Reason(code="fields_kept", values=doubled))
    return FieldsChoice(fields=Fields.JOIN, reason=Reason(code="fields_joined_there", values=doubled))


def _size(video: VideoStream, rate: Fraction, receiver: Receiver, pins: Pins) -> Geometry:
    return geometry_for(video, rate, receiver.coding.bounds, receiver.entry, pins)
