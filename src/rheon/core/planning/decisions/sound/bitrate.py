"""How many bits the sound takes."""

from __future__ import annotations

from ....catalogue import say
from ....formats import AUDIO_CODECS
from ....media import AudioSettings
from ..decision import Case, DecisionKind, Shown
from ..form import Whole
from .common import first, measured


def _show(case: Case) -> Shown | None:
    if (sound := first(case)) is None:
        return None
    made = sound[1]
    kbps = round((made.bitrate_bps or 0) / 1000)
    return Shown(
        value=str(kbps),
        text=f"{kbps} kb/s" if kbps else say("as it comes"),
        reason=measured(made),
        fine=True,
        ranges=() if _takes_what_it_takes(made) else BITRATE.form.ranges,
    )


def _takes_what_it_takes(made: AudioSettings) -> bool:
    codec = AUDIO_CODECS.get(made.codec)
    return codec is not None and codec.lossless and codec.encoder is not None


BITRATE = DecisionKind(
    key="sound.bitrate",
    label="Bitrate",
    help="Kilobits a second of the sound.",
    form=Whole(16, 1536, "kb/s", "sound bitrate in kb/s"),
    show=_show,
    rules=("audio_bitrate",),
)
