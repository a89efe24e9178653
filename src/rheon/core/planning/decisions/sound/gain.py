"""How much louder or quieter the sound becomes."""

from __future__ import annotations

from ....catalogue import say
from ....media import AudioStream, Reason
from ..decision import AUTOMATIC, Case, DecisionKind, Shown
from ..form import Choice, Number, Special
from .common import first

EVEN = "even"
LOWEST_DB, HIGHEST_DB = -20.0, 20.0
DECIBELS = Number(LOWEST_DB, HIGHEST_DB, "dB", "gain in decibels")
USUAL_LUFS, MOST_DBFS = -18.0, -1.0
QUIET_DB = 3


def even_gain(track: AudioStream) -> float:
    """Decibels up to a usual loudness, as far as the measured peak leaves room; 0 where nobody has listened."""
    if track.loudness_lufs is None or track.peak_dbfs is None:
        return 0.0
    wanted = USUAL_LUFS - track.loudness_lufs
    return round(max(LOWEST_DB, min(HIGHEST_DB, wanted, MOST_DBFS - track.peak_dbfs)), 1)


def gain_of(track: AudioStream, pin: float | str | None) -> float:
    """Decibels by hand; ``even`` brings a measured track to a usual loudness without touching its peaks."""
    return even_gain(track) if pin == EVEN else float(pin or 0.0)


def read(said: str) -> float | str:
    return EVEN if said == EVEN else DECIBELS.read(said)


def _show(case: Case) -> Shown | None:
    if (sound := first(case)) is None:
        return None
    track, made = sound
    listened = track.loudness_lufs is not None
    quiet = listened and even_gain(track) >= QUIET_DB
    reason = Reason(code="not_listened")
    if listened:
        values: dict[str, object] = {"lufs": track.loudness_lufs, "gain": even_gain(track)}
        reason = Reason(code="quiet_track" if quiet else "usual_loudness", values=values)
    even = (Choice(value=EVEN, text=say("to a usual loudness")),) if listened else ()
    return Shown(
        value=case.pins.said.get(GAIN.key, "0"),
        text=f"{made.gain_db:+.1f} dB" if made.gain_db else say("as it is"),
        reason=reason,
        fine=not quiet,
        choices=(Choice(value=AUTOMATIC, text=say("as it is")), *even),
        ranges=GAIN.form.ranges,
    )


GAIN = DecisionKind(
    key="sound.gain",
    label="Gain",
    help="Decibels by which the sound is raised or lowered; even brings it to a usual loudness.",
    form=Special(read, f"{LOWEST_DB:g} to {HIGHEST_DB:g} dB; even", DECIBELS.ranges),
    show=_show,
)
