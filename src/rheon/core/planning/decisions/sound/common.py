"""What the decisions about sound share."""

from __future__ import annotations

from collections.abc import Sequence

from ....catalogue import say
from ....devices.tracks import ASIDE
from ....formats import channels_text
from ....media import Action, AudioSettings, AudioStream, Reason, language_name
from ..decision import Case


def first(case: Case) -> tuple[AudioStream, AudioSettings] | None:
    """The track that plays and what becomes of it; the same holds for the others."""
    made = case.made.sound
    return None if made is None else (case.title.audio[made.track], made)


def measured(made: AudioSettings) -> Reason:
    """Why a figure of the sound is what it is, where nobody set it."""
    return Reason(code="as_in_source" if made.action is Action.COPY else "chosen_for_codec")


def track_text(track: AudioStream) -> str:
    aside = f", {track.purpose.value}" if track.purpose in ASIDE else ""
    aside += f", {say('not in every part')}" if track.absent else ""
    language = language_name(track.language)
    return f"{language[:1].upper()}{language[1:]}, {channels_text(track.channels)}{aside}"


def every(tracks: Sequence[object]) -> str:
    """The places of all tracks, as a pin says them."""
    return ",".join(str(place) for place in range(len(tracks)))
