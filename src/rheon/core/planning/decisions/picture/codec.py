"""In which codec the picture is made."""

from __future__ import annotations

from ....catalogue import say
from ....formats import PLAYED_MOST, VIDEO_CODECS, codec_name
from ....media import Reason, VideoSettings, VideoStream
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, OneOf
from .common import of_any, of_encoded

COPY = "copy"


def profile_name(codec: str, profile: str | None) -> str:
    return VIDEO_CODECS[codec].profiles.get(profile or "", profile or "")


def _copied(case: Case, video: VideoSettings) -> Shown:
    text = say("{codec}, copied", codec=codec_name(video.codec))
    others = (Choice(value=name, text=codec_name(name)) for name in PLAYED_MOST)
    return Shown(
        value=COPY,
        text=text,
        reason=Reason(code="stream_untouched"),
        choices=(Choice(value=COPY, text=text), *others),
    )


@of_encoded
def _made(case: Case, source: VideoStream, made: VideoSettings) -> Shown:
    level = f" @ {made.level}" if made.level else ""
    return Shown(
        value=made.codec,
        text=f"{codec_name(made.codec)} {profile_name(made.codec, made.profile)}{level}".strip(),
        reason=case.reasons[CODEC.key],
        choices=tuple(Choice(value=name, text=codec_name(name)) for name in case.offers[CODEC.key]),
    )


CODEC = DecisionKind(
    key="picture.codec",
    label="Codec",
    help="The codec of the picture, or copy to leave it as it is.",
    form=OneOf((COPY, *PLAYED_MOST), "codec that Rheon makes"),
    show=of_any(_copied, _made),
    rules=("video_codec",),
)
