"""Rules by their names, and what breaking one of them does."""

from __future__ import annotations

from collections.abc import Mapping

from ..catalogue import later, say


def rule_name(rule: str) -> str:
    """What people call a rule."""
    return say(RULE_NAMES.get(rule, rule))


def consequence(rule: str, *, unsure: bool) -> str:
    """What most likely happens on a device whose rule a file breaks; ``unsure`` where it may have none of it."""
    what = say(CONSEQUENCES.get(rule, MAY_NOT_PLAY))
    return say("perhaps {what}", what=what) if unsure else what


MAY_NOT_PLAY = later("it may not play")
RULE_NAMES: Mapping[str, str] = {
    "container": "container",
    "extension": "file extension",
    "index": "index",
    "file_size": "file size",
    "video_codec": "video codec",
    "audio_codec": "audio codec",
    "picture": "picture",
    "frame_rate": "frame rate",
    "bit_depth": "bit depth",
    "dynamic_range": "dynamic range",
    "scan": "scan",
    "pixel_shape": "pixel shape",
    "profile": "profile",
    "level": "level",
    "reference_frames": "reference frames",
    "bitrate": "bitrate",
    "peak_rate": "peak rate",
    "channels": "channels",
    "sample_rate": "sample rate",
    "audio_bitrate": "audio bitrate",
    "audio_profile": "audio profile",
    "length": "length",
    "read_through": "read through",
    "picture_whole": "pictures to the end",
    "pictures_joined": "pictures of all parts",
    "pictures_even": "pictures one after the other",
    "pictures_shown": "pictures that are shown",
    "sound_whole": "sound to the end",
    "source_damage": "damage",
    "source_whole": "whole source",
    "planned_picture": "picture as planned",
    "planned_sound": "sound as planned",
    "planned_rate": "frame rate as planned",
    "planned_colour": "colours as planned",
    "planned_words": "subtitles as planned",
    "same_bytes": "the same bytes",
}

CONSEQUENCES: Mapping[str, str] = {
    "container": "it will not open the file",
    "extension": "it may not find the file",
    "index": "it starts only when the whole file has arrived",
    "file_size": "the file can’t be put there",
    "video_codec": "it will show no picture",
    "audio_codec": "it will be silent",
    "picture": "it may refuse the picture, or show it broken",
    "frame_rate": "it may stutter",
    "bit_depth": "it may show no picture, or wrong colours",
    "dynamic_range": "the picture will look pale and grey",
    "scan": "moving edges will look combed",
    "pixel_shape": "the picture will look stretched",
    "profile": "it may show no picture, or a broken one",
    "level": "it may refuse the file, or stutter",
    "reference_frames": "the picture may break up",
    "bitrate": "it may stutter",
    "peak_rate": "it may stutter in busy scenes",
    "channels": "it may be silent, or lack voices",
    "sample_rate": "it may be silent, or play too slowly",
    "audio_bitrate": "the sound may stutter",
    "audio_profile": "it may be silent",
}
