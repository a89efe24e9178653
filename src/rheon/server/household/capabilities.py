"""A device's abilities in words a person understands."""

from __future__ import annotations

from rheon.core.devices import DeviceProfile, VideoEntry
from rheon.core.media.codecs import channels_text, codec_name
from rheon.core.media.containers import CONTAINERS

FORMS = {
    "text_track": "text that can be switched on",
    "picture_track": "pictures as on the disc, that can be switched on",
    "text_file": "a text file beside the film",
}


def summary(profile: DeviceProfile) -> str:
    """The least a person wants to know: ``1080p, surround, FAT32``."""
    best = max((entry.max_height for entry in profile.video), default=None)
    parts = [f"{best}p" if best else "sound only"]
    if any(entry.max_channels > 2 for entry in profile.audio):
        parts.append("surround")
    if profile.limits.max_file_bytes:
        parts.append(f"{profile.limits.max_file_bytes / 1e9:g} GB a file")
    elif profile.limits.file_system == "fat32":
        parts.append("FAT32")
    return ", ".join(parts)


def capabilities(profile: DeviceProfile) -> list[tuple[str, str]]:
    """(topic, sentence) pairs, the most important first."""
    facts = [
        (
            "Files",
            " or ".join(f"{CONTAINERS[entry.format].label} (.{entry.extension})" for entry in profile.containers),
        ),
        ("Picture", "; ".join(map(_video, profile.video)) or "none: it plays sound only"),
        ("Sound", "; ".join(_audio(entry.codec, entry.max_channels) for entry in profile.audio)),
    ]
    if profile.screen:
        inches = f", {profile.screen.diagonal_inch:g} inches" if profile.screen.diagonal_inch else ""
        facts.insert(0, ("Screen", f"{profile.screen.width} × {profile.screen.height} pixels{inches}"))
    words = list(dict.fromkeys(FORMS[entry.form] for entry in profile.subtitles))
    facts.append(("Subtitles", "; ".join([*words, "drawn into the picture"]) if profile.video else "none"))
    facts.append(("Limits", _limits(profile)))
    return facts


def _video(entry: VideoEntry) -> str:
    level = f" level {entry.max_level}" if entry.max_level else ""
    abilities = (
        ("interlaced too", entry.interlaced),
        ("non-square pixels", entry.non_square_pixels),
        ("changing frame rates", entry.variable_frame_rate),
    )
    extras = [text for text, on in abilities if on]
    rate = f"{float(entry.frame_rate_limit):g} frames a second"
    size = f"up to {entry.max_width} × {entry.max_height} at {rate}"
    return f"{codec_name(entry.codec)}{level} {size}" + (f" ({', '.join(extras)})" if extras else "")


def _audio(codec: str, channels: int) -> str:
    surround = " surround" if channels > 2 else ""
    return f"{codec_name(codec)} in {channels_text(channels)}{surround}"


def _limits(profile: DeviceProfile) -> str:
    limits = profile.limits
    parts = []
    if limits.largest_file_bytes:
        parts.append(f"no file over {limits.largest_file_bytes / 1e9:.2g} GB")
    if limits.storage_bytes:
        parts.append(f"{limits.storage_bytes / 1e9:.0f} GB of storage")
    return ", ".join(parts) or "none known"
