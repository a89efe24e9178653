"""What was answered, written and seen to play makes a profile surer, line by line. Pure.

What is learned here only ever raises a line; what a file that did not play teaches is in ``failing.py``.
"""

from __future__ import annotations

from collections.abc import Mapping
from fractions import Fraction
from typing import Literal, TypeVar

from ..catalogue import later, say
from ..formats import CONTAINERS, channels_text, codec_name, profiles_of
from ..media import AudioStream, VideoStream
from .facts import MediaFacts
from .profile import (
    AudioEntry,
    ContainerEntry,
    DeviceProfile,
    Entry,
    Evidence,
    Ground,
    Limits,
    SubtitleEntry,
    Sure,
    VideoEntry,
)
from .questions import QUESTIONS
from .rules import video_fits

NEARLY = 0.9
"""The share of a bound that a file must reach to prove all of it."""
FILM_RATE = Fraction(23)
"""About what films have: a file of that rate proves a line for films."""
MOST_EVIDENCE = 100
ORDER = (Sure.DOUBTFUL, Sure.SUPPOSED, Sure.KNOWN, Sure.PROVEN)

Some = TypeVar("Some", ContainerEntry, VideoEntry, AudioEntry, SubtitleEntry)


def answered(profile: DeviceProfile, question: str, *, yes: bool) -> DeviceProfile:
    """Take somebody's answer. Yes makes lines known and limits wider; no leaves what was doubtful out for good."""
    asked = QUESTIONS[question]
    note = (
        say("{question} Yes, somebody said.", question=asked.text)
        if yes
        else say("{question} No, somebody said.", question=asked.text)
    )

    def settle(entry: Some) -> Some:
        ground = entry.ground
        if ground is None or ground.settled_by != question:
            return entry
        if not yes and ground.sure is not Sure.DOUBTFUL:
            return grounded(entry, ground.model_copy(update={"settled_by": None}))
        sure = _higher(ground.sure, Sure.KNOWN) if yes else Sure.DOUBTFUL
        return grounded(entry, Ground(sure=sure, rests_on="person", point=ground.point, note=note))

    return with_evidence(
        profile.model_copy(
            update={
                "containers": tuple(map(settle, profile.containers)),
                "video": tuple(map(settle, profile.video)),
                "audio": tuple(map(settle, profile.audio)),
                "subtitles": tuple(map(settle, profile.subtitles)),
                "limits": _settled_limits(profile.limits, question, yes=yes, note=note),
            }
        ),
        Evidence(line=asked.text, rests_on="answered", note="yes" if yes else "no"),
    )


def answered_all(profile: DeviceProfile, said: Mapping[str, bool | None]) -> DeviceProfile:
    """Take several answers; a question that nobody could answer changes nothing."""
    for question, yes in said.items():
        if yes is not None:
            profile = answered(profile, question, yes=yes)
    return profile


def played(profile: DeviceProfile, facts: MediaFacts, when: str) -> DeviceProfile:
    """A file like this played: what it held is proven as far as it reached; what no line said is added."""
    note = say("A file with this played there on {when}.", when=when)
    return with_evidence(
        profile.model_copy(
            update={
                "containers": _proven(profile.containers, _container(facts), note)
                if facts.extension and facts.container in CONTAINERS
                else profile.containers,
                "video": _proven(profile.video, _picture(facts.video), note)
                if facts.video and profile.video
                else profile.video,
                "audio": _proven(profile.audio, _sound(facts.audio), note) if facts.audio else profile.audio,
            }
        ),
        Evidence(line=facts_text(facts), rests_on="played", note=say("Played there on {when}.", when=when)),
    )


def asked_besides(profile: DeviceProfile, asked: DeviceProfile) -> DeviceProfile:
    """Take what the device's own browser played. What it did not play says nothing of its other players."""
    video, audio, containers = profile.video, profile.audio, profile.containers
    for entry in asked.video:
        video = _proven(video, entry, _note(entry), entry.sure)
    for sound in asked.audio:
        audio = _proven(audio, sound, _note(sound), sound.sure)
    for container in asked.containers:
        containers = _proven(containers, container, _note(container), container.sure)
    learned = profile.model_copy(update={"video": video, "audio": audio, "containers": containers})
    return with_evidence(learned, *asked.evidence)


def written(before: DeviceProfile, after: DeviceProfile) -> DeviceProfile:
    """A profile as somebody wrote it: lines whose bounds they changed rest on them from now on."""

    def kept(old: tuple[Some, ...], new: tuple[Some, ...]) -> tuple[Some, ...]:
        return tuple(entry if entry in old or entry.ground is None else grounded(entry, BY_HAND) for entry in new)

    limits = after.limits if after.limits == before.limits else after.limits.model_copy(update={"ground": BY_HAND})
    screen = after.screen
    if screen and screen != before.screen:
        screen = screen.model_copy(update={"ground": BY_HAND})
    return after.model_copy(
        update={
            "containers": kept(before.containers, after.containers),
            "video": kept(before.video, after.video),
            "audio": kept(before.audio, after.audio),
            "subtitles": kept(before.subtitles, after.subtitles),
            "limits": limits,
            "screen": screen,
        }
    )


BY_HAND = Ground(sure=Sure.KNOWN, rests_on="person", note=later("Written by hand."))


def facts_text(facts: MediaFacts) -> str:
    """A file in a few words: ``MP4 with H.264 1280 × 720 and AAC in stereo``."""
    streams = []
    if facts.video:
        streams.append(f"{codec_name(facts.video.codec)} {facts.video.width} × {facts.video.height}")
    if facts.audio:
        streams.append(f"{codec_name(facts.audio.codec)} in {channels_text(facts.audio.channels)}")
    known = CONTAINERS.get(facts.container)
    return say(
        "{container} with {streams}",
        container=known.label if known else facts.container,
        streams=say(" and ").join(streams),
    )


def _settled_limits(limits: Limits, question: str, *, yes: bool, note: str) -> Limits:
    wider = limits.perhaps
    if wider is None or wider.settled_by != question:
        return limits
    ground = Ground(sure=Sure.KNOWN, rests_on="person", note=note)
    if not yes:
        return limits.model_copy(update={"perhaps": None, "ground": ground})
    return Limits(
        max_file_bytes=wider.max_file_bytes,
        file_system=wider.file_system,
        storage_bytes=limits.storage_bytes,
        ground=ground,
    )


def _proven(entries: tuple[Some, ...], seen: Some, note: str, sure: Sure = Sure.PROVEN) -> tuple[Some, ...]:
    """The entries with the one that ``seen`` stays within raised, if it reaches its bounds.

    Where it stays within none, or only within a doubtful one that it does not reach, ``seen`` itself is added.
    """
    holding = [entry for entry in entries if _within(seen, entry)]
    rests_on = _rests_on(sure)
    # the least doubtful one is what it was
    best = max(holding, key=lambda entry: ORDER.index(entry.sure), default=None)
    reached = best is not None and _reaches(seen, best)
    if best is not None and not reached and best.sure is not Sure.DOUBTFUL:
        return entries
    if best is None or not reached:
        added: tuple[Some, ...] = (
            grounded(seen, Ground(sure=sure, rests_on=rests_on, point=point_of(seen), note=note)),
        )
        return entries + added
    if ORDER.index(sure) <= ORDER.index(best.sure):
        return entries
    ground = Ground(sure=sure, rests_on=rests_on, point=point_of(best), note=note)
    return tuple(grounded(entry, ground) if entry is best else entry for entry in entries)


def _rests_on(sure: Sure) -> Literal["played", "said"]:
    return "played" if sure is Sure.PROVEN else "said"


def _within(seen: Entry, entry: Entry) -> bool:
    match seen, entry:
        case ContainerEntry(), ContainerEntry():
            return (seen.format, seen.extension) == (entry.format, entry.extension)
        case VideoEntry(), VideoEntry():
            return seen.codec == entry.codec and video_fits(_as_stream(seen), entry)
        case AudioEntry(), AudioEntry():
            return seen.codec == entry.codec and seen.max_channels <= entry.max_channels
    return seen == entry


def _reaches(seen: Entry, entry: Entry) -> bool:
    """Whether what was seen comes so near the entry's bounds that it proves all of it."""
    match seen, entry:
        case VideoEntry(), VideoEntry():
            wide = seen.max_width >= NEARLY * entry.max_width or seen.max_height >= NEARLY * entry.max_height
            quick = seen.frame_rate_limit >= min(entry.frame_rate_limit, FILM_RATE)
            return wide and quick and max(seen.bit_depths) >= max(entry.bit_depths)
        case AudioEntry(), AudioEntry():
            return seen.max_channels >= entry.max_channels
    return True


def _as_stream(entry: VideoEntry) -> VideoStream:
    return VideoStream(
        codec=entry.codec,
        width=entry.max_width,
        height=entry.max_height,
        frame_rate=entry.frame_rate_limit,
        bit_depth=max(entry.bit_depths),
        profile=entry.profiles[-1] if entry.profiles else None,
        level=entry.max_level,
    )


def _container(facts: MediaFacts) -> ContainerEntry:
    return ContainerEntry.model_validate({"format": facts.container, "extension": facts.extension or ""})


def _picture(video: VideoStream) -> VideoEntry:
    """The line that a stream is: everything up to its own profile, level, size and rate."""
    order = profiles_of(video.codec)
    profiles = order[: order.index(video.profile) + 1] if video.profile in order else ()
    rate = max(video.frame_rate, Fraction(1))
    return VideoEntry(
        codec=video.codec,
        profiles=profiles,
        max_level=video.level,
        max_width=max(video.width, 1),
        max_height=max(video.height, 1),
        max_frame_rate=f"{rate.numerator}/{rate.denominator}",
        bit_depths=tuple(sorted({8, video.bit_depth})),
    )


def _sound(audio: AudioStream) -> AudioEntry:
    return AudioEntry(codec=audio.codec, max_channels=max(audio.channels, 1), sample_rates=(audio.sample_rate,))


def grounded(entry: Some, ground: Ground) -> Some:
    return entry.model_copy(update={"ground": ground})


def point_of(entry: Entry) -> str:
    return entry.ground.point if entry.ground else ""


def _note(entry: Entry) -> str:
    return entry.ground.note if entry.ground else ""


def _higher(one: Sure, other: Sure) -> Sure:
    return max(one, other, key=ORDER.index)


def with_evidence(profile: DeviceProfile, *found: Evidence) -> DeviceProfile:
    known = tuple(dict.fromkeys((*profile.evidence, *found)))
    return profile.model_copy(update={"evidence": known[-MOST_EVIDENCE:]})
