"""Which profile of the codec is written."""

from __future__ import annotations

from ....catalogue import say
from ....formats import video_encoder
from ....media import VideoSettings, VideoStream
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, Name
from .codec import profile_name
from .common import of_encoded


@of_encoded
def _show(case: Case, source: VideoStream, made: VideoSettings) -> Shown:
    known = video_encoder(made.codec, made.encoder).written_profiles
    return Shown(
        value=made.profile or "none",
        text=profile_name(made.codec, made.profile) or say("none"),
        reason=case.reasons[PROFILE.key],
        fine=True,
        choices=tuple(Choice(value=name, text=profile_name(made.codec, name)) for name in known),
    )


PROFILE = DecisionKind(
    key="picture.profile",
    label="Profile",
    help="The profile of the codec.",
    form=Name("one that the codec's encoder writes"),
    show=_show,
    rules=("profile",),
)
