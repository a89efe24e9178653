"""Which codec a picture is encoded in: what device, container and encoder leave to choose from."""

from __future__ import annotations

from ...catalogue import say
from ...devices import DeviceProfile, VideoEntry
from ...errors import PlanError
from ...formats import CONTAINERS, ENCODABLE_VIDEO, PLAYED_MOST, SMALLEST_FIRST, codec_name, video_encoder
from ...media import DynamicRange, Reason, VideoStream
from ..decisions import PINNED, Pins
from ..decisions.picture import CODEC

LARGE_PIXELS = 1920 * 1088
FREE_BPS = 40_000_000


def encodable_entries(profile: DeviceProfile, container: str) -> list[VideoEntry]:
    """Entries that Rheon can encode for, inside this container."""
    held = CONTAINERS[container].video
    return [
        entry
        for entry in profile.video
        if entry.codec in ENCODABLE_VIDEO and entry.codec in held and 8 in entry.bit_depths and _writable(entry)
    ]


def others(container: str) -> list[str]:
    """Codecs that the container holds and Rheon makes, whatever the device says."""
    return [codec for codec in PLAYED_MOST if codec in CONTAINERS[container].video]


def choose_entry(
    options: list[VideoEntry], video: VideoStream, pins: Pins, container: str
) -> tuple[VideoEntry, Reason]:
    """The entry to encode for, by hand or by what plays most widely. Raises ``BadPin`` or ``PlanError``."""
    known = others(container)
    pinned = pins.among(CODEC, known, say("codec that {container} holds", container=CONTAINERS[container].label))
    if pinned is not None:
        chosen = next((entry for entry in options if entry.codec == pinned), None)
        return chosen or _free_entry(pinned, options), PINNED
    if not options:
        if not known:
            raise PlanError("The device takes no kind of picture that Rheon can make.")
        return _free_entry(known[0], options), Reason(code="held_by_container")
    if video.dynamic_range is not DynamicRange.STANDARD:
        keeping = [entry for entry in options if keeps_hdr(video, entry)]
        if keeping:
            best = min(keeping, key=lambda entry: PLAYED_MOST.index(entry.codec))
            return best, Reason(code="keeps_hdr", values={"codec": codec_name(best.codec)})
    large = video.width * video.height > LARGE_PIXELS
    order = SMALLEST_FIRST if large else PLAYED_MOST
    chosen = min(options, key=lambda entry: order.index(entry.codec))
    if len({entry.codec for entry in options}) == 1:
        code = "only_codec"
    else:
        code = "small_for_large_pictures" if large and chosen.codec == "hevc" else "plays_most_widely"
    return chosen, Reason(code=code, values={"codec": codec_name(chosen.codec)})


def keeps_hdr(video: VideoStream, entry: VideoEntry) -> bool:
    """Whether the picture's light beyond white paper can be encoded for the entry: that takes ten bits."""
    shown = video.dynamic_range in entry.dynamic_ranges and 10 in entry.bit_depths
    ten = video_encoder(entry.codec).ten_bit_profile
    return shown and ten is not None and (not entry.profiles or ten in entry.profiles)


def _free_entry(codec: str, options: list[VideoEntry]) -> VideoEntry:
    """An entry for a codec that the device does not name: as large and fast as what it does name."""
    return VideoEntry(
        codec=codec,
        max_width=max((entry.max_width for entry in options), default=1920),
        max_height=max((entry.max_height for entry in options), default=1080),
        max_frame_rate=max(options, key=lambda e: e.frame_rate_limit).max_frame_rate if options else "60",
        max_bitrate_bps=FREE_BPS,
        bit_depths=(8, 10) if video_encoder(codec).ten_bit_profile else (8,),
    )


def _writable(entry: VideoEntry) -> bool:
    return not entry.profiles or bool(set(entry.profiles) & set(video_encoder(entry.codec).profiles))
