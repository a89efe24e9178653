"""The decisions about sound, as people read and pin them. Pure."""

from __future__ import annotations

from collections.abc import Sequence

from ..devices.tracks import ASIDE, language_rank
from ..formats import AUDIO_CODECS, channels_text, codec_name
from ..media import Action, AudioSettings, AudioStream, Reason, language_name
from . import sounds
from .plan import Choice, Decision, PlanRequest, Range

NONE = "none"


def track_text(track: AudioStream) -> str:
    aside = f", {track.purpose.value}" if track.purpose in ASIDE else ""
    language = language_name(track.language)
    return f"{language[:1].upper()}{language[1:]}, {channels_text(track.channels)}{aside}"


def no_sound_decision(request: PlanRequest) -> Decision:
    code = "pinned" if "sound.track" in request.pins else "no_sound_in_title"
    return Decision(
        key="sound.track",
        value=NONE,
        text="no sound",
        reason=Reason(code=code),
        pinned=code == "pinned",
        choices=_choices(request.title.audio),
    )


def track_decision(request: PlanRequest, tracks: tuple[AudioStream, ...]) -> Decision:
    track = tracks[0]
    pinned = "sound.track" in request.pins
    if pinned:
        reason = Reason(code="pinned")
    elif len(request.title.audio) == 1:
        reason = Reason(code="only_track")
    elif language_rank(track.language, request.languages) < len(request.languages):
        reason = Reason(code="your_language", values={"language": language_name(track.language)})
    else:
        reason = Reason(code="most_channels")
    value = ",".join(str(track.index) for track in tracks)
    choices = _choices(request.title.audio)
    if value not in [choice.value for choice in choices]:
        choices = (Choice(value=value, text=" + ".join(map(track_text, tracks))), *choices)
    return Decision(
        key="sound.track",
        value=value,
        text=" + ".join(map(track_text, tracks)),
        reason=reason,
        pinned=pinned,
        choices=choices,
    )


def chosen_decisions(
    request: PlanRequest, made: AudioSettings, why: tuple[AudioStream, Reason], offered: Sequence[str]
) -> tuple[Decision, ...]:
    """What becomes of the first track; the same holds for the others."""
    track, reason = why
    pins = request.pins
    copied = made.action is Action.COPY
    codecs = dict.fromkeys([*offered, *([] if copied else [made.codec])])
    own = Reason(code="pinned") if "sound.codec" in pins else reason
    form = Decision(
        key="sound.codec",
        value="copy" if copied else made.codec,
        text=_form_text(made),
        reason=own,
        pinned="sound.codec" in pins,
        choices=(
            Choice(value="copy", text=f"{codec_name(track.codec)}, copied"),
            *(Choice(value=codec, text=codec_name(codec)) for codec in codecs),
        ),
    )
    return (form, *_measures(request, made, copied), _gain_decision(request, track, made))


def _measures(request: PlanRequest, made: AudioSettings, copied: bool) -> tuple[Decision, ...]:
    pins = request.pins
    same = Reason(code="as_in_source" if copied else "chosen_for_codec")
    kbps = round((made.bitrate_bps or 0) / 1000)

    def why(key: str) -> Reason:
        return Reason(code="pinned") if key in pins else same

    channels = Decision(
        key="sound.channels",
        value=str(made.channels),
        text=channels_text(made.channels),
        reason=why("sound.channels"),
        pinned="sound.channels" in pins,
        fine=True,
        choices=tuple(
            Choice(value=str(n), text=channels_text(n)) for n in (1, 2, 6) if n <= max(2, made.source_channels)
        ),
    )
    rate = Decision(
        key="sound.sample_rate",
        value=str(made.sample_rate),
        text=f"{made.sample_rate / 1000:g} kHz",
        reason=why("sound.sample_rate"),
        pinned="sound.sample_rate" in pins,
        fine=True,
        choices=tuple(
            Choice(value=str(known), text=f"{known / 1000:g} kHz")
            for known in _sample_rates(made.codec)
            if known >= 22050
        ),
    )
    bitrate = Decision(
        key="sound.bitrate",
        value=str(kbps) if kbps else "0",
        text=f"{kbps} kb/s" if kbps else "as it comes",
        reason=why("sound.bitrate"),
        pinned="sound.bitrate" in pins,
        fine=True,
        ranges=() if _has_no_rate(made.codec) else (Range(low=16, high=1536, unit="kb/s"),),
    )
    return channels, rate, bitrate


def _gain_decision(request: PlanRequest, track: AudioStream, made: AudioSettings) -> Decision:
    pinned = "sound.gain" in request.pins
    quiet = track.loudness_lufs is not None and sounds.even_gain(track) >= 3
    if pinned:
        reason = Reason(code="pinned")
    elif track.loudness_lufs is None:
        reason = Reason(code="not_listened")
    else:
        code = "quiet_track" if quiet else "usual_loudness"
        reason = Reason(code=code, values={"lufs": track.loudness_lufs, "gain": sounds.even_gain(track)})
    even = (Choice(value="even", text="to a usual loudness"),) if track.loudness_lufs is not None else ()
    return Decision(
        key="sound.gain",
        value=request.pins.get("sound.gain", "0"),
        text=f"{made.gain_db:+.1f} dB" if made.gain_db else "as it is",
        reason=reason,
        pinned=pinned,
        fine=not quiet,
        choices=(Choice(value="auto", text="as it is"), *even),
        ranges=(Range(low=-20, high=20, unit="dB"),),
    )


def _choices(tracks: Sequence[AudioStream]) -> tuple[Choice, ...]:
    listed = tuple(Choice(value=str(track.index), text=track_text(track)) for track in tracks)
    every = ",".join(str(track.index) for track in tracks)
    both = (Choice(value=every, text=f"all {len(tracks)}, the first plays"),) if len(tracks) > 1 else ()
    return (*listed, *both, Choice(value=NONE, text="no sound"))


def _form_text(made: AudioSettings) -> str:
    name = f"{codec_name(made.codec)} {channels_text(made.channels)}"
    if made.action is Action.COPY:
        return f"{name}, copied"
    return f"{name}, {made.bitrate_bps / 1000:.0f} kb/s" if made.bitrate_bps else f"{name}, lossless"


def _has_no_rate(codec: str) -> bool:
    return AUDIO_CODECS[codec].lossless and AUDIO_CODECS[codec].encoder is not None


def _sample_rates(codec: str) -> tuple[int, ...]:
    encoder = AUDIO_CODECS[codec].encoder if codec in AUDIO_CODECS else None
    return encoder.sample_rates if encoder else ()
