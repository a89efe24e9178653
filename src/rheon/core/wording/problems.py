"""What is wrong with a source, as sentences."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from ..catalogue import say, say_count
from ..media import Gap, Problem, language_name
from .lengths import duration_text, ends_early_text, gap_text
from .values import Values, number


def problem_text(problem: Problem) -> str:
    """What is wrong, what of it can be had all the same, and what to do."""
    said, values = PROBLEMS[problem.reason.code], problem.reason.values
    return say(said, **values) if isinstance(said, str) else said(values)


def _gap(values: Values) -> str:
    return gap_text(Gap(from_s=number(values["from_s"]), to_s=number(values["to_s"])))


def _ends_early(values: Values) -> str:
    message = "Title {title}: its data end at {at}, before the title does. What is there can be converted."
    return say(message, title=values["title"], at=duration_text(number(values["ends_s"])))


def _track_absent(values: Values) -> str:
    message = "Title {title} lists audio track {number} ({language}), but its data hold no such track."
    language = language_name(str(values["language"]))
    return say(message, title=values["title"], number=values["number"], language=language)


def _file_cut_off(values: Values) -> str:
    message = "{name} {ends_early}. What is there can be made into a file if you accept the loss."
    lost = ends_early_text(number(values["ends_s"]), number(values["promised_s"]))
    return say(message, name=values["name"], ends_early=lost)


def _streams_empty(values: Values) -> str:
    return say_count(
        "{name} declares a stream that holds nothing; the others were taken.",
        "{name} declares {count} streams that hold nothing; the others were taken.",
        int(number(values["streams"])),
        name=values["name"],
    )


PROBLEMS: Mapping[str, str | Callable[[Values], str]] = {
    # of discs
    "cut_off": "Title {title} can't be converted: its data are missing. Copy the disc or image again to get it.",
    "scrambled": (
        "Title {title} can't be converted: its data is scrambled. "
        "Rheon only works with material that is not, and stops here."
    ),
    "no_data": (
        "Title {title} can't be converted: where its picture and sound should be there is something else. "
        "Copy the disc again."
    ),
    "unreadable": lambda v: say("Title {title}: {gap}. The rest can be converted.", title=v["title"], gap=_gap(v)),
    "ends_early": _ends_early,
    "clips_missing": (
        "Title {title}: {lost_s:.0f} s are missing, since not all of its clips were copied. "
        "What is there can be converted."
    ),
    "clips_not_copied": "Title {title} is not here: the clips that it plays were not copied.",
    "playlist_broken": "The playlist {name} can't be read and is left out.",
    "tables_broken": (
        "Title {title} can't be read: the tables of title set {title_set} are broken or missing, and so is their "
        "backup. Copy the disc again to get it."
    ),
    "title_set_not_copied": (
        "Title {title} is not here: its title set {title_set} was not copied along with the others."
    ),
    "track_absent": _track_absent,
    # of files
    "file_refused": "{name}: {error}",
    "file_unreadable": "{name} can't be read: {reason}.",
    "file_cut_off": _file_cut_off,
    "file_gap": lambda v: say("{name}: {gap}. The rest can be converted.", name=v["name"], gap=_gap(v)),
    "streams_empty": _streams_empty,
    "chapters_beside_refused": "{name}: the list of chapters beside it is left out. {error}",
    "chapters_beside_not_all": "{name}: not every line of {listed} could be used; its length or number does not fit.",
}
