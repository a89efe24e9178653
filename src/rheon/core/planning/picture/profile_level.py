"""The profile in which a picture is coded, a level set by hand, and the bounds of both on the device. Pure."""

from __future__ import annotations

from dataclasses import dataclass

from ...devices import DeviceProfile, VideoEntry
from ...devices.bounds import highest_level
from ...formats import VIDEO_CODECS, levels_of, video_encoder
from ...media import Fields
from ..decisions import Pins
from ..decisions.picture import FIELDS, LEVEL, PROFILE
from . import rates
from .geometry import Bounds, bounds_for


@dataclass(frozen=True, slots=True, kw_only=True)
class ProfileLevel:
    """``profile`` and ``level`` are the codec's, the level only where it was set by hand.

    ``of_fields`` says that pictures of two fields may be coded in them.
    """

    profile: str | None
    level: str | None
    bounds: Bounds
    of_fields: bool


def profile_level(device: DeviceProfile, entry: VideoEntry, depth: int, pins: Pins) -> ProfileLevel:
    """Raises ``BadPin``."""
    encoder = video_encoder(entry.codec)
    by_hand = pins.among(PROFILE, encoder.written_profiles, "profile that Rheon makes")
    profile = by_hand or rates.best_profile(entry, depth)
    levels = levels_of(entry.codec, profile)
    forced = pins.among(LEVEL, levels, "level of this codec")
    level = levels.get(forced or "") or highest_level(entry, profile)
    able = bool(encoder.field_arguments) and profile not in VIDEO_CODECS[entry.codec].plain_profiles
    of_fields = able and rates.field_level(entry.codec, profile, level, forced=forced is not None) is not None
    if pins.of(FIELDS) is Fields.KEEP and not of_fields:
        raise FIELDS.refuse(
            "This codec codes whole frames alone, at least in this profile and level. Choose another way with the "
            "fields, or H.264 or MPEG-2."
        )
    return ProfileLevel(profile=profile, level=forced, bounds=bounds_for(device, entry, level), of_fields=of_fields)
