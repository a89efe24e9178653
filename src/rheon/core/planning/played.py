"""What somebody who plays a file can choose between, by name. Pure."""

from __future__ import annotations

from ..catalogue import say
from ..media import OutputSettings, SubtitleForm, Title
from .decisions.sound.common import track_text
from .decisions.subtitles.tracks import track_name


def played_sounds(title: Title, made: OutputSettings) -> tuple[str, ...]:
    """The file's tracks of sound, in their order."""
    return _apart([track_text(title.audio[one.track]) for one in made.audio])


def switched_subtitles(title: Title, made: OutputSettings) -> tuple[str, ...]:
    """The subtitles that a player can switch on, in their order; none where they are drawn in."""
    able = [one for one in made.subtitles if one.form is not SubtitleForm.DRAWN]
    names = [track_name(title.subtitles[one.track]) for one in able]
    return _apart(
        [say("{name}, only forced lines", name=n) if one.only_forced else n for one, n in zip(able, names, strict=True)]
    )


def _apart(names: list[str]) -> tuple[str, ...]:
    """What is called alike is told apart by its place."""
    return tuple(
        say("{name} ({place})", name=name, place=place) if names.count(name) > 1 else name
        for place, name in enumerate(names, 1)
    )
