"""A file that is to be made, in a line."""

from __future__ import annotations

from ..catalogue import say
from ..formats import channels_text, codec_name
from ..media import OutputSettings
from ..wording import ranges_text


def settings_text(made: OutputSettings) -> str:
    """The settings of an output in one line."""
    parts = [made.file_name.rpartition(".")[2].upper()]
    if made.video:
        parts += [f"{made.video.width}×{made.video.height}", codec_name(made.video.codec)]
        parts += [say("graphics chip")] if made.video.device else []
    parts += [f"{channels_text(sound.channels)} {codec_name(sound.codec)}" for sound in made.audio]
    if made.drawn:
        parts.append(say("subtitles drawn in"))
    elif made.subtitles:
        parts.append(say("subtitles to switch on"))
    if made.kept:
        more = len(made.kept) - 1
        first = ranges_text(made.kept[:1])
        parts.append(say("{range} and {count} more", range=first, count=more) if more else first)
    return " · ".join(parts)
