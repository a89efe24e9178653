"""What was read and found out of a title: its picture, how its tracks sound, what its subtitles hold."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from ..analysis import BordersFound, Survey
from ..catalogue import later, say, say_count
from ..formats import codec_name
from ..media import AudioStream, DynamicRange, SubtitleStream, Title, VideoStream, aspect_text
from ..wording import DYNAMIC_RANGES, duration_text, sides_text

SURE, LIKELY, COUNTED = 0.85, 0.6, 0.95
MUCH_NOISE = 4.0
SCANS = {
    "progressive": later("whole frames"),
    "interlaced": later("interlaced fields"),
    "telecined": later("film spread over fields"),
    "mixed": later("film and interlaced video by turns"),
    "unknown": later("not told"),
}
PURPOSES = {
    "captions": later("for the hard of hearing"),
    "commentary": later("commentary"),
    "large": later("large letters"),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Fact:
    topic: str
    text: str


def picture_facts(title: Title, survey: Survey) -> list[Fact]:
    """Facts about the picture; none where there is none."""
    video = title.video
    if video is None:
        return []
    videos = [part.video for part in title.joined if part.video is not None] or [video]
    facts = [
        Fact(topic=say("Picture"), text=_each(map(_size_text, videos))),
        Fact(topic=say("Codec"), text=_each(codec_name(one.codec) for one in videos)),
        Fact(topic=say("Frame rate"), text=_each(_frame_rate_text(one, survey) for one in videos)),
    ]
    if video.letterboxed:
        facts.append(Fact(topic=say("Form"), text=say("letterboxed: a wide picture inside 4:3")))
    if video.dynamic_range is not DynamicRange.STANDARD:
        facts.append(Fact(topic=say("Dynamic range"), text=_dynamic_range_text(video)))
    if video.rotation:
        facts.append(Fact(topic=say("Turned"), text=say("{angle}° to the right", angle=-video.rotation % 360)))
    if survey.borders is not None:
        facts.append(Fact(topic=say("Borders"), text=borders_text(video, survey)))
    if video.noise is not None:
        facts.append(Fact(topic=say("Noise"), text=_noise_text(video)))
    for gap in title.gaps:
        missing = say("{lost_s:.0f} s at {at}", lost_s=gap.to_s - gap.from_s, at=duration_text(gap.from_s))
        facts.append(Fact(topic=say("Missing"), text=missing))
    return facts


def _each(texts: Iterable[str]) -> str:
    """What is said of each part of a join, once where that is the same."""
    return "; ".join(dict.fromkeys(texts))


def _size_text(video: VideoStream) -> str:
    width, height, aspect = video.width, video.height, aspect_text(video.display_aspect)
    return say("{width} × {height}, shown {aspect}", width=width, height=height, aspect=aspect)


def _noise_text(video: VideoStream) -> str:
    if video.noise is None or not video.is_noisy:
        return say("none to speak of")
    if video.noise >= MUCH_NOISE:
        return say("much ({noise:.1f} steps of 255)", noise=video.noise)
    return say("some ({noise:.1f} steps of 255)", noise=video.noise)


def _dynamic_range_text(video: VideoStream) -> str:
    name = say(DYNAMIC_RANGES[video.dynamic_range.value])
    peak = video.colour.peak_nits if video.colour else None
    return say("{name}, up to {nits} cd/m²", name=name, nits=peak) if peak else name


def borders_text(video: VideoStream, survey: Survey) -> str:
    """Black borders that were found: ``60 above, 60 below: the picture is 720 × 360``; empty where nobody looked."""
    found = survey.borders
    if found is None:
        return ""
    if not found.any:
        return _how_sure(say("none") + _changing_text(found), found.sure)
    sides = sides_text(found.top, found.bottom, found.left, found.right)
    width, height = video.width - found.left - found.right, video.height - found.top - found.bottom
    left = say("{borders}: the picture is {width} × {height}", borders=sides, width=width, height=height)
    return _how_sure(left + _changing_text(found), found.sure)


def _changing_text(found: BordersFound) -> str:
    """``, and 100 above, 100 below in 60 % of the pictures``; empty where all show the same."""
    if found.often is None:
        return ""
    sides = sides_text(found.often.top, found.often.bottom, found.often.left, found.often.right)
    return say(", and {borders} in {share:.0%} of the pictures", borders=sides, share=found.often_share)


def heard_text(track: AudioStream, survey: Survey) -> str:
    """What listening to a track found; empty where nobody has."""
    found = next((sound for sound in survey.sounds if sound.index == track.index), None)
    said: list[str] = []
    if found is not None and found.silent:
        said.append(say("silent"))
    elif found is not None and found.loudness_lufs is not None:
        level = say("{lufs:.0f} LUFS, peak {peak:.0f} dB", lufs=found.loudness_lufs, peak=found.peak_dbfs or 0)
        said.append(_how_sure(level, found.sure))
    if found is not None and found.same_as is not None:
        said.append(say("the same as track {number}", number=found.same_as + 1))
    if track.absent:
        said.append(say("not in every part"))
    if track.is_core:
        said.append(say("the core of track {number}", number=track.index))
    return "; ".join(said)


def lines_text(track: SubtitleStream, survey: Survey) -> str:
    """What a subtitle track holds, as far as it is known."""
    found = next((subtitle for subtitle in survey.subtitles if subtitle.index == track.index), None)
    said = [say(PURPOSES[track.purpose.value])] if track.purpose.value in PURPOSES else []
    if found is not None:
        said.append(_count_text(found.lines, counted=found.sure > COUNTED))
    if track.forced.value == "all":
        said.append(say("all forced"))
    elif found is not None and found.forced:
        said.append(say("{count} of them forced", count=found.forced))
    return ", ".join(said)


def _count_text(lines: int, *, counted: bool) -> str:
    text = say_count("{count} line", "{count} lines", lines) if lines else say("no line found")
    return text if counted else say("about {count}", count=text)


def _frame_rate_text(video: VideoStream, survey: Survey) -> str:
    rate = say("{rate:.3f} a second", rate=float(video.frame_rate))
    if video.variable_rate:
        rate = say("{rate} on average, varying", rate=rate)
    how = say(SCANS[video.scan.value])
    if video.film_in_fields:
        how = say("{scan}, in the pictures themselves", scan=how)
    text = say("{rate}, {scan}", rate=rate, scan=how)
    return _how_sure(text, survey.scan_type.sure) if survey.scan_type else text


def _how_sure(text: str, sure: float) -> str:
    if sure >= SURE:
        return text
    return say("{finding} (likely)", finding=text) if sure >= LIKELY else say("{finding} (unsure)", finding=text)
