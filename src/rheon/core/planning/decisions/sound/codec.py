"""What the sound becomes."""

from __future__ import annotations

from ....catalogue import say
from ....formats import SOUND_PREFERRED, channels_text, codec_name
from ....media import Action, AudioSettings
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, OneOf
from .common import first

COPY = "copy"


def _text(made: AudioSettings) -> str:
    name = f"{codec_name(made.codec)} {channels_text(made.channels)}"
    if made.action is Action.COPY:
        return say("{codec}, copied", codec=name)
    return (
        say("{codec}, {kbps:.0f} kb/s", codec=name, kbps=made.bitrate_bps / 1000)
        if made.bitrate_bps
        else say("{codec}, lossless", codec=name)
    )


def _show(case: Case) -> Shown | None:
    if (sound := first(case)) is None:
        return None
    track, made = sound
    copied = made.action is Action.COPY
    codecs = dict.fromkeys([*case.offers[SOUND_CODEC.key], *([] if copied else [made.codec])])
    return Shown(
        value=COPY if copied else made.codec,
        text=_text(made),
        reason=case.reasons[SOUND_CODEC.key],
        choices=(
            Choice(value=COPY, text=say("{codec}, copied", codec=codec_name(track.codec))),
            *(Choice(value=codec, text=codec_name(codec)) for codec in codecs),
        ),
    )


SOUND_CODEC = DecisionKind(
    key="sound.codec",
    label="Becomes",
    help="The codec of the sound, or copy to leave it as it is.",
    form=OneOf((COPY, *SOUND_PREFERRED), "sound that Rheon makes"),
    show=_show,
    rules=("audio_codec", "audio_profile"),
)
