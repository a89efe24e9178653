"""What a file that did not play says of a device: the line to blame becomes doubtful. Pure.

What was proven before is not blamed. Where nothing else of its kind is left, a smaller conformance point is put beside
it.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from enum import StrEnum

from ..catalogue import say
from ..media import VideoStream
from .certainty import line_text, lines
from .facts import MediaFacts
from .kinds import conformance_points
from .learning import ORDER, Some, facts_text, grounded, point_of, with_evidence
from .profile import AudioEntry, ContainerEntry, DeviceProfile, Entry, Evidence, Ground, Sure, VideoEntry
from .rules import audio_fits, video_fits

SLOWER = 0.6
"""The share of a rate that stuttered which is tried next."""
STEREO = 2


class Trouble(StrEnum):
    """What somebody saw when a file did not play, in the words of the page."""

    MISSING = "missing"
    NO_PICTURE = "no_picture"
    SILENT = "silent"
    STUTTERS = "stutters"
    NO_SUBTITLES = "no_subtitles"


def failed(profile: DeviceProfile, facts: MediaFacts, trouble: Trouble, when: str) -> DeviceProfile:
    """A file like this did not play: the line to blame becomes doubtful, unless it was proven before."""
    note = say("A file with this did not play there on {when}.", when=when)
    blame = {
        Trouble.MISSING: _blame_opening,
        Trouble.NO_PICTURE: _blame_picture,
        Trouble.SILENT: _blame_sound,
        Trouble.STUTTERS: _slow_down,
        Trouble.NO_SUBTITLES: _blame_subtitles,
    }[trouble]
    said = {
        Trouble.MISSING: say("It was not listed or did not open"),
        Trouble.NO_PICTURE: say("There was no picture, or a broken one"),
        Trouble.SILENT: say("There was no sound"),
        Trouble.STUTTERS: "It stuttered",
        Trouble.NO_SUBTITLES: say("There were no subtitles"),
    }[trouble]
    return with_evidence(
        blame(profile, facts, note), Evidence(line=facts_text(facts), rests_on="failed", note=f"{said}, {when}.")
    )


def trial_failed(profile: DeviceProfile, key: str, when: str) -> DeviceProfile:
    """The test file for one doubtful line did not play: everything else in it was sure, so it is that line."""
    line = next(line for line in lines(profile) if line.key == key)
    note = say("A test file did not play there on {when}.", when=when)
    ground = line.ground.model_copy(update={"rests_on": "failed", "note": note}) if line.ground else None
    changed = tuple(
        entry.model_copy(update={"ground": ground}) if entry is line.entry else entry
        for entry in getattr(profile, line.topic)
    )
    said = Evidence(
        line=line_text(line.entry), rests_on="failed", note=say("A test file did not play, {when}.", when=when)
    )
    return with_evidence(profile.model_copy(update={line.topic: changed}), said)


def _blame_opening(profile: DeviceProfile, facts: MediaFacts, note: str) -> DeviceProfile:
    """The least sure of what was in the file: its picture, its container or its sound."""
    picture, sound = _pictures(profile, facts), _sounds(profile, facts)
    containers = [e for e in profile.containers if (e.format, e.extension) == (facts.container, facts.extension)]
    blamed: dict[str, list[ContainerEntry] | list[VideoEntry] | list[AudioEntry]]
    blamed = {"picture": picture, "container": containers, "sound": sound}
    used = [(ORDER.index(entry.sure), part) for part, entries in blamed.items() for entry in _best(entries)]
    if not used:
        return profile
    _, part = min(used, key=lambda one: one[0])
    if part == "container":
        return profile.model_copy(update={"containers": _doubted(profile.containers, containers, note)})
    return _blame_picture(profile, facts, note) if part == "picture" else _blame_sound(profile, facts, note)


def _best(entries: Sequence[Entry]) -> list[Entry]:
    """The surest of the lines that a stream stays within: what it was taken for. One or none."""
    return sorted(entries, key=lambda entry: -ORDER.index(entry.sure))[:1]


def _pictures(profile: DeviceProfile, facts: MediaFacts) -> list[VideoEntry]:
    video = facts.video
    return [e for e in profile.video_entries(video.codec) if video_fits(video, e)] if video else []


def _sounds(profile: DeviceProfile, facts: MediaFacts) -> list[AudioEntry]:
    audio = facts.audio
    return [e for e in profile.audio_entries(audio.codec) if audio_fits(audio, e)] if audio else []


def _blame_picture(profile: DeviceProfile, facts: MediaFacts, note: str) -> DeviceProfile:
    if facts.video is None:
        return profile
    video = _doubted(profile.video, _pictures(profile, facts), note)
    if video != profile.video and all(entry.sure is Sure.DOUBTFUL for entry in video):
        video = (*video, *_next_smaller(facts.video))
    return profile.model_copy(update={"video": video})


def _next_smaller(video: VideoStream) -> tuple[VideoEntry, ...]:
    """The largest point of the codec that promises less than the stream needed; none where there is none."""
    pixels = video.width * video.height
    smaller = (entry for entry in conformance_points(video.codec) if entry.max_width * entry.max_height < pixels)
    return tuple(entry for entry in [next(smaller, None)] if entry)


def _blame_sound(profile: DeviceProfile, facts: MediaFacts, note: str) -> DeviceProfile:
    if facts.audio is None:
        return profile
    mine = _sounds(profile, facts)
    audio = _doubted(profile.audio, mine, note)
    if audio != profile.audio and facts.audio.channels > STEREO:
        stereo = {"max_channels": STEREO, "ground": Ground(sure=Sure.SUPPOSED, rests_on="failed", note=note)}
        audio = (*audio, *(entry.model_copy(update=stereo) for entry in mine[:1]))
    return profile.model_copy(update={"audio": audio})


def _slow_down(profile: DeviceProfile, facts: MediaFacts, note: str) -> DeviceProfile:
    """A lower peak rate for the line that stuttered; where the rate is not known, a smaller picture."""
    video = facts.video
    if video is None:
        return profile
    rate = video.bitrate_bps
    if not rate:
        return _blame_picture(profile, facts, note)
    most = max(int(rate * SLOWER), 1)
    ground = Ground(
        sure=Sure.SUPPOSED,
        rests_on="failed",
        note=say("{note} It stuttered at {rate:.1f} Mb/s.", note=note, rate=rate / 1e6),
    )

    def slowed(entry: VideoEntry) -> VideoEntry:
        if entry.codec != video.codec or not video_fits(video, entry) or (entry.max_bitrate_bps or most + 1) <= most:
            return entry
        return entry.model_copy(update={"max_bitrate_bps": most, "ground": ground})

    return profile.model_copy(update={"video": tuple(map(slowed, profile.video))})


def _blame_subtitles(profile: DeviceProfile, facts: MediaFacts, note: str) -> DeviceProfile:
    tracks = [entry for entry in profile.subtitles if entry.form != "text_file"]
    return profile.model_copy(update={"subtitles": _doubted(profile.subtitles, tracks, note)})


def _doubted(entries: tuple[Some, ...], blamed: Iterable[Some], note: str) -> tuple[Some, ...]:
    guilty = {id(entry) for entry in blamed if entry.sure is not Sure.PROVEN}

    def ground(entry: Some) -> Ground:
        return Ground(sure=Sure.DOUBTFUL, rests_on="failed", point=point_of(entry), note=note)

    return tuple(grounded(entry, ground(entry)) if id(entry) in guilty else entry for entry in entries)
