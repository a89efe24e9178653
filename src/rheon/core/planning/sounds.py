"""Facts and figures of sound encoders. Pure."""

from __future__ import annotations

from ..devices import AudioEntry, DeviceProfile
from ..media import AudioStream, Reason
from ..media.codecs import codec_name
from .plan import Balance, SoundWish
from .settings import AudioSettings

SURROUND = 6
STEREO_BPS = {
    "aac": (96_000, 128_000, 160_000, 192_000, 256_000),
    "mp3": (128_000, 160_000, 192_000, 224_000, 256_000),
    "ac3": (192_000, 192_000, 224_000, 256_000, 320_000),
    "eac3": (128_000, 160_000, 192_000, 224_000, 256_000),
    "opus": (64_000, 96_000, 112_000, 128_000, 160_000),
    "vorbis": (96_000, 112_000, 144_000, 176_000, 224_000),
    "mp2": (192_000, 224_000, 256_000, 320_000, 384_000),
    "wmav2": (96_000, 128_000, 160_000, 192_000, 192_000),
    "flac": (900_000,) * 5,
}
SURROUND_BPS = {
    "aac": (256_000, 288_000, 320_000, 384_000, 448_000),
    "ac3": (384_000, 384_000, 448_000, 448_000, 640_000),
    "eac3": (256_000, 320_000, 384_000, 448_000, 640_000),
    "opus": (192_000, 224_000, 256_000, 320_000, 384_000),
    "vorbis": (256_000, 288_000, 320_000, 384_000, 448_000),
    "flac": (2_400_000,) * 5,
}
# ISO/IEC 11172-3 tables for layers III and II, ATSC A/52 table 5.18
_A52 = (32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320, 384, 448, 512, 576, 640)
STANDARD_KBPS = {
    "mp3": (32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320),
    "mp2": (32, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320, 384),
    "ac3": _A52,
    "wmav2": (32, 48, 64, 80, 96, 128, 160, 192),
}
MPEG_RATES = (32000, 44100, 48000)
ENCODER_RATES = {
    "mp3": MPEG_RATES,
    "mp2": MPEG_RATES,
    "ac3": MPEG_RATES,
    "eac3": MPEG_RATES,
    "wmav2": (44100, 48000),
    "opus": (48000,),
    "vorbis": (22050, 32000, 44100, 48000, 96000),
    "flac": (8000, 16000, 22050, 32000, 44100, 48000, 88200, 96000),
    "aac": (8000, 11025, 12000, 16000, 22050, 24000, 32000, 44100, 48000, 88200, 96000),
}
ENCODER_CHANNELS = {"mp3": 2, "mp2": 2, "wmav2": 2, "ac3": 6, "eac3": 6}
PREFERRED = ("aac", "mp3", "ac3", "eac3", "opus", "vorbis", "flac", "mp2", "wmav2")
LOSSLESS = frozenset({"flac"})
CHANGING = ("sound.channels", "sound.sample_rate", "sound.bitrate")
"""Pins that a copied track can't keep."""
USUAL_LUFS, MOST_DBFS = -18.0, -1.0


def usable_rates(entry: AudioEntry) -> list[int]:
    return [rate for rate in entry.sample_rates if rate in ENCODER_RATES[entry.codec]]


def free_entry(codec: str, profile: DeviceProfile) -> AudioEntry:
    """An entry for a codec that the device does not name: as many channels as in what it does name."""
    most = max(entry.max_channels for entry in profile.audio)
    return AudioEntry(
        codec=codec, max_channels=min(most, ENCODER_CHANNELS.get(codec, 8)), sample_rates=ENCODER_RATES[codec]
    )


def entry_rank(entry: AudioEntry, track: AudioStream, wish: SoundWish) -> tuple[int, int]:
    """More of the track's channels first (as far as 5.1), then the codec that is most widely played."""
    most = 2 if wish is SoundWish.STEREO else 8
    return (-channels_for(track, entry, most), PREFERRED.index(entry.codec))


def channels_for(track: AudioStream, entry: AudioEntry, most: int) -> int:
    most = min(most, entry.max_channels, ENCODER_CHANNELS.get(entry.codec, 8))
    if track.channels >= SURROUND and most >= SURROUND:
        return SURROUND
    return min(2, track.channels, most)


def bitrate_for(entry: AudioEntry, channels: int, balance: Balance) -> int:
    table = SURROUND_BPS if channels > 2 and entry.codec in SURROUND_BPS else STEREO_BPS
    wanted = table[entry.codec][balance.step] // (2 if channels == 1 else 1)
    return min(wanted, entry.max_bitrate_bps or wanted)


def allowed_bitrate(codec: str, limit_bps: int) -> int:
    """The standard's rate next below, where the standard has a list."""
    rates = [kbps * 1000 for kbps in STANDARD_KBPS.get(codec, ())]
    return max((rate for rate in rates if rate <= limit_bps), default=rates[0] if rates else limit_bps)


def sample_rate_for(source: int, entry: AudioEntry) -> int:
    """The source's own where the device takes it, else the nearest one, the higher of two as near."""
    return min(usable_rates(entry), key=lambda rate: (abs(rate - source), -rate))


def even_gain(track: AudioStream) -> float:
    """Decibels up to a usual loudness, as far as the measured peak leaves room; 0 where nobody has listened."""
    if track.loudness_lufs is None or track.peak_dbfs is None:
        return 0.0
    wanted = USUAL_LUFS - track.loudness_lufs
    return round(max(-20.0, min(20.0, wanted, MOST_DBFS - track.peak_dbfs)), 1)


def reason_for(track: AudioStream, made: AudioSettings, *, wish: SoundWish) -> Reason:
    values: dict[str, object] = {"codec": codec_name(track.codec), "channels": track.channels}
    if made.channels < track.channels:
        code = "stereo_wished" if wish is SoundWish.STEREO and made.channels == 2 else "fewer_speakers"
        return Reason(code=code, values=values)
    if made.codec != track.codec:
        return Reason(code="codec_not_taken", values=values)
    return Reason(code="sound_out_of_bounds", values=values)
