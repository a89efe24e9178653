"""Which profile of the codec is written."""

from __future__ import annotations

from ....formats import video_encoder
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, Name
from .codec import profile_name
from .common import encoded


def _show(case: Case) -> Shown | None:
    if (pictures := encoded(case)) is None:
        return None
    made = pictures[1]
    encoder = video_encoder(made.codec, made.encoder)
    known = [*encoder.profiles, *([encoder.ten_bit_profile] if encoder.ten_bit_profile else [])]
    return Shown(
        value=made.profile or "none",
        text=profile_name(made.codec, made.profile) or "none",
        reason=case.reason(PROFILE.key),
        fine=True,
        choices=tuple(Choice(value=name, text=profile_name(made.codec, name)) for name in dict.fromkeys(known)),
    )


PROFILE = DecisionKind(
    key="picture.profile",
    label="Profile",
    help="The profile of the codec.",
    form=Name("one that the codec's encoder writes"),
    show=_show,
    rules=("profile",),
)
