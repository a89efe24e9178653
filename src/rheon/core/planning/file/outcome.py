"""The file that a plan would make, as a check would find it, and which rules of its devices it will break. Pure."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from ...devices import DeviceProfile, MediaFacts, RuleResult, careful, judge
from ...devices.peaks import peak_bounds, peak_rule
from ...media import Action, AudioSettings, AudioStream, Fields, OutputSettings, Scan, Title, VideoSettings, VideoStream
from ...media.facts import Unit, fact
from ..plan import Breach, Estimate


def planned_facts(title: Title, made: OutputSettings, expected: Estimate) -> MediaFacts:
    """Facts of the planned file; its first audio track is the one that counts."""
    return MediaFacts(
        container=made.container,
        size_bytes=expected.size_bytes,
        duration_s=made.duration_s,
        video=planned_video(title, made.video) if made.video else None,
        audio=planned_audio(title, made.audio[0]) if made.audio else None,
        extension=made.file_name.rpartition(".")[2],
        index_in_front=True if made.container == "mp4" else None,
    )


def planned_video(title: Title, made: VideoSettings) -> VideoStream | None:
    if made.action is Action.COPY:
        return title.video
    return VideoStream(
        codec=made.codec,
        width=made.width,
        height=made.height,
        frame_rate=made.frame_rate,
        sample_aspect=made.sample_aspect,
        scan=Scan.INTERLACED if made.combed or made.fields is Fields.KEEP else Scan.PROGRESSIVE,
        bit_depth=made.bit_depth,
        profile=made.profile,
        level=made.level,
        reference_frames=made.reference_frames,
        bitrate_bps=made.bitrate_bps,
        colour=made.colour,
    )


def planned_audio(title: Title, made: AudioSettings) -> AudioStream:
    if made.action is Action.COPY:
        return title.audio[made.track]
    return AudioStream(
        index=0,
        codec=made.codec,
        channels=made.channels,
        sample_rate=made.sample_rate,
        bitrate_bps=made.bitrate_bps,
        profile="lc" if made.codec == "aac" else None,
        language=made.language,
    )


def breaches(
    title: Title, made: OutputSettings, expected: Estimate, devices: Sequence[DeviceProfile]
) -> tuple[Breach, ...]:
    """Every rule of every device that the planned file breaks, where only what is sure counts."""
    facts = planned_facts(title, made, expected)
    kept = {device.id: {rule.rule for rule in judge(facts, device) if rule.ok} for device in devices}
    return tuple(
        Breach(
            device_id=device.id,
            device_name=device.name,
            rule=rule.rule,
            part=rule.part,
            measured=rule.measured,
            allowed=rule.allowed,
            unsure=rule.rule in kept[device.id],
        )
        for device in devices
        for rule in (*_broken(facts, careful(device)), *_peak(made, facts, careful(device)))
    )


def _broken(facts: MediaFacts, device: DeviceProfile) -> Iterator[RuleResult]:
    return (rule for rule in judge(facts, device) if not rule.ok)


def _peak(made: OutputSettings, facts: MediaFacts, device: DeviceProfile) -> Iterator[RuleResult]:
    """The peak rate that was set against what level and device allow, as the check will measure it."""
    video, bounds = made.video, peak_bounds(facts.video, device)
    if video is None or video.action is Action.COPY or bounds is None:
        return
    rule = peak_rule(video.peak_bps or 0, bounds, fact(Unit.BITS_A_SECOND, video.peak_bps or 0))
    if not rule.ok:
        yield rule
