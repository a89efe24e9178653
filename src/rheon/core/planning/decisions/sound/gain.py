"""How much louder or quieter the sound becomes."""

from __future__ import annotations

from collections.abc import Sequence

from ....catalogue import say
from ....media import AudioSettings, AudioStream, Reason
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


def part_gains(tracks: Sequence[AudioStream], pin: float | str | None) -> tuple[float, ...]:
    """For each part of a join its own gain to a usual loudness; none where all get the same."""
    return tuple(0.0 if track.absent else even_gain(track) for track in tracks) if pin == EVEN else ()


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
    apart_db = _apart_db(case, made.track)
    if apart_db >= QUIET_DB:
        reason = Reason(code="uneven_parts", values={"apart": apart_db})
    even_text = say("each part to a usual loudness") if case.title.joined else say("to a usual loudness")
    even = (Choice(value=EVEN, text=even_text),) if listened else ()
    return Shown(
        value=case.pins.said.get(GAIN.key, "0"),
        text=_text(made),
        reason=reason,
        fine=not quiet and apart_db < QUIET_DB,
        choices=(Choice(value=AUTOMATIC, text=say("as it is")), *even),
        ranges=GAIN.form.ranges,
    )


def _text(made: AudioSettings) -> str:
    if any(made.part_gains_db):
        low, high = min(made.part_gains_db), max(made.part_gains_db)
        return say("{low:+.1f} to {high:+.1f} dB, each part by itself", low=low, high=high)
    return f"{made.gain_db:+.1f} dB" if made.gain_db else say("as it is")


def _apart_db(case: Case, track: int) -> float:
    """By how much the loudest part of a join is louder than the quietest."""
    tracks = [part.audio[track] for part in case.title.joined]
    levels = [one.loudness_lufs for one in tracks if not one.absent and one.loudness_lufs is not None]
    return max(levels) - min(levels) if levels else 0.0


GAIN = DecisionKind(
    key="sound.gain",
    label="Gain",
    help="Decibels by which the sound is raised or lowered; even brings it to a usual loudness.",
    form=Special(read, f"{LOWEST_DB:g} to {HIGHEST_DB:g} dB; even", DECIBELS.ranges),
    show=_show,
)
