"""The sound of an output: which tracks, copied or encoded, in how many channels."""

from __future__ import annotations

from dataclasses import dataclass

from ...devices import AudioEntry, DeviceProfile, preferred_audio
from ...devices.rules import takes_audio
from ...errors import PlanError
from ...formats import AUDIO_CODECS, CONTAINERS, ENCODABLE_AUDIO, SOUND_PREFERRED, audio_encoder, codec_name
from ...media import Action, AudioSettings, AudioStream, CellData, Reason, SoundWish
from ..decisions.range import JOIN
from ..decisions.range.join import CONVERT
from ..decisions.sound import BITRATE, CHANNELS, GAIN, SAMPLE_RATE, SOUND_CODEC, TRACK
from ..decisions.sound.codec import COPY
from ..decisions.sound.gain import gain_of, part_gains
from ..request import PlanRequest
from . import figures
from .usual import most_audio_bps, usual_audio_bps

CHANGING = (CHANNELS, SAMPLE_RATE, BITRATE)
"""What a copied track can't keep when it is set by hand."""
FILE_SHARE = 1.02
"""A file of sound takes so much more than its track."""
BESIDE_PICTURE = 0.75
"""What of a limit for one file a copied track may take at most, so that the picture is more than a sketch."""
MOST_APART_S = 0.012
"""How far a copied track may stray from the picture; people notice twice that."""


@dataclass(frozen=True, slots=True, kw_only=True)
class AudioPlan:
    """The tracks with what becomes of them; ``reason`` is the first one's, ``offered`` the codecs it might become.

    Together they are expected to take ``bps``, and ``most_bps`` at most.
    """

    settings: tuple[AudioSettings, ...]
    bps: float
    most_bps: float = 0
    reason: Reason | None = None
    offered: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class _Frame:
    """What every track of an output is planned in."""

    request: PlanRequest
    profile: DeviceProfile
    container: str


def chosen_tracks(request: PlanRequest) -> tuple[AudioStream, ...]:
    """The tracks that are pinned (``0`` or ``0,2``, the first is the one that plays), else the preferred one.

    Raises ``BadPin``.
    """
    tracks = request.title.audio
    places = request.pins.of(TRACK)
    if places is None:
        preferred = preferred_audio(tracks, request.languages)
        return (preferred,) if preferred else ()
    if all(place < len(tracks) for place in places):
        return tuple(tracks[place] for place in places)
    raise TRACK.refuse("This title has no audio track {said}.", said=request.pins.said[TRACK.key])


def encodable_audio(profile: DeviceProfile, container: str) -> list[AudioEntry]:
    """Entries that Rheon can encode sound for, inside this container."""
    held = CONTAINERS[container].audio
    return [
        entry
        for entry in profile.audio
        if entry.codec in ENCODABLE_AUDIO and entry.codec in held and figures.usable_rates(entry)
    ]


def copies(track: AudioStream, request: PlanRequest, profile: DeviceProfile, container: str) -> bool:
    """Whether the track goes into this container as it is."""
    pins = request.pins
    if pins.any_of(CHANGING) or gain_of(track, pins.of(GAIN)) or any(_part_gains(track, request)):
        return False
    if track.codec not in CONTAINERS[container].audio:
        return False
    if (codec := pins.of(SOUND_CODEC)) is not None:
        return codec == COPY
    if request.sound is SoundWish.STEREO and track.channels > 2:
        return False
    if request.title.gaps or request.cuts_sound or not sound_agrees(track, request):
        return False
    if not leaves_room(track, request, profile):
        return False
    return takes_audio(track, profile) and stays_with_picture(track, request, container)


def leaves_room(track: AudioStream, request: PlanRequest, profile: DeviceProfile) -> bool:
    """Whether a track stays inside the limit for one file as it is, and leaves its share of it to a picture."""
    limit = profile.limits.largest_file_bytes
    if limit is None:
        return True
    beside = request.title.video is not None and profile.video
    bps = most_audio_bps(_copied(track), track) if beside else track.bitrate_bps or usual_audio_bps(track)
    return request.title.duration_s * bps / 8 * FILE_SHARE <= limit * (BESIDE_PICTURE if beside else 1)


def sound_agrees(track: AudioStream, request: PlanRequest) -> bool:
    """Whether a track may follow itself from part to part: codecs whose encoders put silence in front would let it be
    heard at every join.
    """
    title = request.title
    if not title.joined:
        return True
    if not title.parts_agree or request.range.kept or request.pins.of(JOIN) == CONVERT:
        return False
    there = [part.audio[track.index] for part in title.joined]
    same = all(
        (one.codec, one.channels, one.sample_rate) == (track.codec, track.channels, track.sample_rate)
        and not one.absent
        for one in there
    )
    return same and AUDIO_CODECS[track.codec].frames_stand_alone


def stays_with_picture(track: AudioStream, request: PlanRequest, container: str) -> bool:
    """Whether a copied track is still where it belongs in a container that keeps no times, as AVI does.

    Picture and sound begin together there, the picture on a tick of its rate; what was further apart would stray, and
    so would everything behind a place where a disc's stretches meet.
    """
    video = request.title.video
    if CONTAINERS[container].keeps_start or video is None:
        return True
    if isinstance(request.title.data, CellData) or video.span is None or track.span is None:
        return False
    apart_s = video.span.start_s - track.span.start_s
    ticks = apart_s * float(video.frame_rate)
    return apart_s >= -MOST_APART_S and abs(ticks - round(ticks)) / float(video.frame_rate) <= MOST_APART_S


def plan_audio(
    request: PlanRequest, profile: DeviceProfile, container: str, tracks: tuple[AudioStream, ...]
) -> AudioPlan:
    """Decide on the sound. Raises ``PlanError`` or ``BadPin``."""
    if not tracks:
        return AudioPlan(settings=(), bps=0)
    frame = _Frame(request=request, profile=profile, container=container)
    made = [_one(frame, track) for track in tracks]
    bps = sum(
        float(settings.bitrate_bps or track.bitrate_bps or usual_audio_bps(track))
        for (settings, _), track in zip(made, tracks, strict=True)
    )
    return AudioPlan(
        settings=tuple(settings for settings, _ in made),
        bps=bps,
        most_bps=sum(most_audio_bps(settings, track) for (settings, _), track in zip(made, tracks, strict=True)),
        reason=made[0][1],
        offered=tuple(entry.codec for entry in encodable_audio(profile, container)),
    )


def _one(frame: _Frame, track: AudioStream) -> tuple[AudioSettings, Reason]:
    if copies(track, frame.request, frame.profile, frame.container):
        return _copied(track), Reason(code="sound_untouched")
    if frame.request.pins.of(SOUND_CODEC) == COPY:
        label = CONTAINERS[frame.container].label
        raise SOUND_CODEC.refuse(
            "{container} can't hold {codec} as it is.", container=label, codec=codec_name(track.codec)
        )
    entry = _entry(frame, track)
    settings = _encoded(frame.request, track, entry)
    if takes_audio(track, frame.profile) and frame.request.cuts_sound:
        return settings, Reason(code="sound_cut")
    if takes_audio(track, frame.profile) and not sound_agrees(track, frame.request):
        return settings, Reason(code="sound_joined")
    if takes_audio(track, frame.profile) and frame.request.title.gaps:
        return settings, Reason(code="sound_mended")
    if takes_audio(track, frame.profile) and not leaves_room(track, frame.request, frame.profile):
        return settings, Reason(code="sound_too_large")
    if takes_audio(track, frame.profile) and not stays_with_picture(track, frame.request, frame.container):
        label = CONTAINERS[frame.container].label
        return settings, Reason(code="sound_realigned", values={"container": label})
    return settings, figures.reason_for(track, settings, wish=frame.request.sound)


def _part_gains(track: AudioStream, request: PlanRequest) -> tuple[float, ...]:
    parts = request.title.joined
    return part_gains([part.audio[track.index] for part in parts], request.pins.of(GAIN)) if parts else ()


def _copied(track: AudioStream) -> AudioSettings:
    return AudioSettings(
        action=Action.COPY,
        track=track.index,
        codec=track.codec,
        channels=track.channels,
        sample_rate=track.sample_rate,
        source_channels=track.channels,
        language=track.language,
    )


def _entry(frame: _Frame, track: AudioStream) -> AudioEntry:
    """The entry to encode for: the codec by hand, even one that the device does not take, else the best it takes."""
    options = encodable_audio(frame.profile, frame.container)
    held = CONTAINERS[frame.container].audio & ENCODABLE_AUDIO
    pinned = frame.request.pins.among(SOUND_CODEC, sorted(held), "sound that this container holds")
    if pinned is not None:
        options = [entry for entry in options if entry.codec == pinned] or [figures.free_entry(pinned, frame.profile)]
    if not options:
        if not held:
            raise PlanError("The device takes no kind of sound that Rheon can make.")
        options = [figures.free_entry(codec, frame.profile) for codec in SOUND_PREFERRED if codec in held]
    return min(options, key=lambda entry: figures.entry_rank(entry, track, frame.request.sound))


def _encoded(request: PlanRequest, track: AudioStream, entry: AudioEntry) -> AudioSettings:
    pins = request.pins
    most = 2 if request.sound is SoundWish.STEREO else 8
    channels = pins.of(CHANNELS) or figures.channels_for(track, entry, most)
    allowed = audio_encoder(entry.codec).most_channels
    if channels > allowed:
        raise CHANNELS.refuse("{codec} holds up to {allowed} channels.", codec=codec_name(entry.codec), allowed=allowed)
    rate = pins.among(SAMPLE_RATE, audio_encoder(entry.codec).sample_rates, "sample rate for this codec")
    kbps = pins.of(BITRATE)
    lossless = AUDIO_CODECS[entry.codec].lossless
    bitrate = kbps * 1000 if kbps else figures.bitrate_for(entry, channels, request.balance)
    return AudioSettings(
        action=Action.ENCODE,
        track=track.index,
        codec=entry.codec,
        channels=channels,
        sample_rate=rate or figures.sample_rate_for(track.sample_rate, entry),
        source_channels=track.channels,
        bitrate_bps=None if lossless else figures.allowed_bitrate(entry.codec, bitrate),
        gain_db=gain_of(track, pins.of(GAIN)),
        part_gains_db=_part_gains(track, request),
        language=track.language,
    )
