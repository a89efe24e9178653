"""Facts and figures of sound encoders. Pure."""

from __future__ import annotations

from ...devices import AudioEntry, DeviceProfile
from ...formats import SOUND_PREFERRED, audio_encoder, codec_name
from ...media import AudioSettings, AudioStream, Balance, Reason, SoundWish

SURROUND = 6


def usable_rates(entry: AudioEntry) -> list[int]:
    return [rate for rate in entry.sample_rates if rate in audio_encoder(entry.codec).sample_rates]


def free_entry(codec: str, profile: DeviceProfile) -> AudioEntry:
    """An entry for a codec that the device does not name: as many channels as in what it does name."""
    most = max(entry.max_channels for entry in profile.audio)
    encoder = audio_encoder(codec)
    return AudioEntry(codec=codec, max_channels=min(most, encoder.most_channels), sample_rates=encoder.sample_rates)


def entry_rank(entry: AudioEntry, track: AudioStream, wish: SoundWish) -> tuple[int, int]:
    """More of the track's channels first (as far as 5.1), then the codec that is most widely played."""
    most = 2 if wish is SoundWish.STEREO else 8
    return (-channels_for(track, entry, most), SOUND_PREFERRED.index(entry.codec))


def channels_for(track: AudioStream, entry: AudioEntry, most: int) -> int:
    most = min(most, entry.max_channels, audio_encoder(entry.codec).most_channels)
    if track.channels >= SURROUND and most >= SURROUND:
        return SURROUND
    return min(2, track.channels, most)


def bitrate_for(entry: AudioEntry, channels: int, balance: Balance) -> int:
    encoder = audio_encoder(entry.codec)
    table = encoder.surround_bps if channels > 2 and encoder.surround_bps else encoder.stereo_bps
    wanted = table[balance.step] // (2 if channels == 1 else 1)
    return min(wanted, entry.max_bitrate_bps or wanted)


def allowed_bitrate(codec: str, limit_bps: int) -> int:
    """The standard's rate next below, where the standard has a list."""
    rates = [kbps * 1000 for kbps in audio_encoder(codec).kbps]
    return max((rate for rate in rates if rate <= limit_bps), default=rates[0] if rates else limit_bps)


def sample_rate_for(source: int, entry: AudioEntry) -> int:
    """The source's own where the device takes it, else the nearest one, the higher of two as near."""
    return min(usable_rates(entry), key=lambda rate: (abs(rate - source), -rate))


def reason_for(track: AudioStream, made: AudioSettings, *, wish: SoundWish) -> Reason:
    values: dict[str, object] = {"codec": codec_name(track.codec), "channels": track.channels}
    if made.channels < track.channels:
        code = "stereo_wished" if wish is SoundWish.STEREO and made.channels == 2 else "fewer_speakers"
        return Reason(code=code, values=values)
    if made.codec != track.codec:
        return Reason(code="codec_not_taken", values=values)
    return Reason(code="sound_out_of_bounds", values=values)
