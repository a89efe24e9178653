"""A file that is to be made, in a line."""

from __future__ import annotations

from ..catalogue import say
from ..errors import EngineError, RheonError
from ..formats import channels_text, codec_name
from ..media import OutputSettings
from ..planning import Plan
from ..wording import ranges_text, sentence


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


def instead_text(made: Plan, error: RheonError) -> str:
    """Why something else is made than what was planned, in a sentence, and what became of that."""
    why = sentence(made.why_instead) if made.why_instead else say("what was planned could not be made")
    said = error.complaint if isinstance(error, EngineError) else error.what
    return f"{why[0].upper()}{why[1:]}: {said.rstrip('.')}."
