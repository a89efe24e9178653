"""The sound of an output: which track, copied or encoded, in how many channels."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..devices import ENCODABLE_AUDIO, AudioEntry, DeviceProfile, preferred_audio
from ..devices.rules import takes_audio
from ..devices.tracks import ASIDE, language_rank
from ..errors import BadPin, PlanError
from ..media import AudioStream, Reason, language_name
from ..media.codecs import channels_text, codec_name
from ..media.containers import CONTAINERS
from .estimate import usual_audio_bps
from .plan import Balance, Choice, Decision, PlanRequest
from .settings import Action, AudioSettings

SURROUND = 6
STEREO_BPS = {
    "aac": (96_000, 128_000, 160_000, 192_000, 256_000),
    "mp3": (128_000, 160_000, 192_000, 224_000, 256_000),
    "ac3": (192_000, 192_000, 224_000, 256_000, 320_000),
}
SURROUND_BPS = {
    "aac": (256_000, 288_000, 320_000, 384_000, 448_000),
    "ac3": (384_000, 384_000, 448_000, 448_000, 640_000),
}
# ISO/IEC 11172-3 table for layer III, and ATSC A/52 table 5.18
STANDARD_BPS = {
    "mp3": tuple(k * 1000 for k in (32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320)),
    "ac3": tuple(
        k * 1000 for k in (32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320, 384, 448, 512, 576, 640)
    ),
}
ENCODER_RATES = {
    "mp3": (32000, 44100, 48000),
    "ac3": (32000, 44100, 48000),
    "aac": (8000, 11025, 12000, 16000, 22050, 24000, 32000, 44100, 48000, 88200, 96000),
}
PREFERRED = ("aac", "mp3", "ac3")


@dataclass(frozen=True, slots=True, kw_only=True)
class AudioPlan:
    settings: AudioSettings | None
    decisions: tuple[Decision, ...]
    bps: float


def chosen_track(request: PlanRequest) -> AudioStream | None:
    """The track that is pinned, else the preferred one. Raises ``BadPin``."""
    tracks = request.title.audio
    pinned = request.pins.get("sound.track")
    if pinned is None:
        return preferred_audio(tracks, request.languages)
    if pinned == "none":
        return None
    if pinned.isdigit() and int(pinned) < len(tracks):
        return tracks[int(pinned)]
    raise BadPin(f"This title has no audio track {pinned}.", pin="sound.track")


def encodable_audio(profile: DeviceProfile, container: str) -> list[AudioEntry]:
    """Entries that Rheon can encode sound for, inside this container."""
    held = CONTAINERS[container].audio
    return [
        entry
        for entry in profile.audio
        if entry.codec in ENCODABLE_AUDIO
        and entry.codec in held
        and any(rate in ENCODER_RATES[entry.codec] for rate in entry.sample_rates)
    ]


def plan_audio(request: PlanRequest, profile: DeviceProfile, container: str, track: AudioStream | None) -> AudioPlan:
    """Decide on the sound. Raises ``PlanError``."""
    if track is None:
        code = "pinned" if "sound.track" in request.pins else "no_sound_in_title"
        none = Decision(
            key="sound.track", value="none", text="no sound", reason=Reason(code=code),
            pinned=code == "pinned", choices=_choices(request.title.audio),
        )  # fmt: skip
        return AudioPlan(settings=None, decisions=(none,), bps=0)
    which = _track_decision(request, track)
    if takes_audio(track, profile) and track.codec in CONTAINERS[container].audio:
        return _copied(track, which)
    options = encodable_audio(profile, container)
    if not options:
        raise PlanError("The device takes no kind of sound that Rheon can make.")
    entry = min(options, key=lambda entry: _entry_rank(entry, track))
    settings = _encoded(track, entry, request.balance)
    form = Decision(
        key="sound.form",
        value=settings.codec,
        text=_form_text(settings),
        reason=_form_reason(track, settings),
    )
    return AudioPlan(settings=settings, decisions=(which, form), bps=float(settings.bitrate_bps or 0))


def track_text(track: AudioStream) -> str:
    aside = f", {track.purpose.value}" if track.purpose in ASIDE else ""
    language = language_name(track.language)
    return f"{language[:1].upper()}{language[1:]}, {channels_text(track.channels)}{aside}"


def _copied(track: AudioStream, which: Decision) -> AudioPlan:
    settings = AudioSettings(
        action=Action.COPY,
        track=track.index,
        codec=track.codec,
        channels=track.channels,
        sample_rate=track.sample_rate,
        source_channels=track.channels,
    )
    text = f"{codec_name(track.codec)} {channels_text(track.channels)}"
    form = Decision(key="sound.form", value="copy", text=text, reason=Reason(code="sound_untouched"))
    return AudioPlan(settings=settings, decisions=(which, form), bps=float(track.bitrate_bps or usual_audio_bps(track)))


def _entry_rank(entry: AudioEntry, track: AudioStream) -> tuple[int, int]:
    """More of the track's channels first (as far as 5.1), then the codec that is most widely played."""
    return (-_channels(track, entry), PREFERRED.index(entry.codec))


def _channels(track: AudioStream, entry: AudioEntry) -> int:
    most = 2 if entry.codec == "mp3" else entry.max_channels
    if track.channels >= SURROUND and most >= SURROUND:
        return SURROUND
    return min(2, track.channels, most)


def _encoded(track: AudioStream, entry: AudioEntry, balance: Balance) -> AudioSettings:
    channels = _channels(track, entry)
    table = SURROUND_BPS if channels == SURROUND else STEREO_BPS
    wanted = table[entry.codec][balance.step] // (2 if channels == 1 else 1)
    return AudioSettings(
        action=Action.ENCODE,
        track=track.index,
        codec=entry.codec,
        channels=channels,
        sample_rate=_sample_rate(track.sample_rate, entry),
        source_channels=track.channels,
        bitrate_bps=_bounded(entry.codec, min(wanted, entry.max_bitrate_bps or wanted)),
    )


def _sample_rate(source: int, entry: AudioEntry) -> int:
    """The source's own where the device takes it, else the nearest one, the higher of two as near."""
    usable = [rate for rate in entry.sample_rates if rate in ENCODER_RATES[entry.codec]]
    return min(usable, key=lambda rate: (abs(rate - source), -rate))


def _bounded(codec: str, limit_bps: int) -> int:
    return max((rate for rate in STANDARD_BPS.get(codec, (limit_bps,)) if rate <= limit_bps), default=limit_bps)


def _track_decision(request: PlanRequest, track: AudioStream) -> Decision:
    pinned = "sound.track" in request.pins
    if pinned:
        reason = Reason(code="pinned")
    elif len(request.title.audio) == 1:
        reason = Reason(code="only_track")
    elif language_rank(track.language, request.languages) < len(request.languages):
        reason = Reason(code="your_language", values={"language": language_name(track.language)})
    else:
        reason = Reason(code="most_channels")
    return Decision(
        key="sound.track",
        value=str(track.index),
        text=track_text(track),
        reason=reason,
        pinned=pinned,
        choices=_choices(request.title.audio),
    )


def _choices(tracks: Sequence[AudioStream]) -> tuple[Choice, ...]:
    listed = tuple(Choice(value=str(track.index), text=track_text(track)) for track in tracks)
    return (*listed, Choice(value="none", text="no sound"))


def _form_text(made: AudioSettings) -> str:
    rate = f"{(made.bitrate_bps or 0) / 1000:.0f} kb/s"
    return f"{codec_name(made.codec)} {channels_text(made.channels)}, {rate}"


def _form_reason(track: AudioStream, made: AudioSettings) -> Reason:
    values: dict[str, object] = {
        "codec": codec_name(track.codec),
        "channels": track.channels,
    }
    if made.channels < track.channels:
        return Reason(code="fewer_speakers", values=values)
    if made.codec != track.codec:
        return Reason(code="codec_not_taken", values=values)
    return Reason(code="sound_out_of_bounds", values=values)
