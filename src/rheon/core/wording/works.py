"""What is said of names, tags and artwork, and of works that a look-up service knows."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from ..catalogue import say_count
from .lengths import in_time
from .values import Values, number


def _some_of(values: Values) -> str:
    there, here = (int(number(values[side])) for side in ("there", "here"))
    return say_count("{count} episode here of its {there}", "{count} episodes here of its {there}", here, there=there)


def _as_many(values: Values) -> str:
    return say_count("{count} episode, as here", "{count} episodes, as here", int(number(values["there"])))


def _more_here(values: Values) -> str:
    there, here = (int(number(values[side])) for side in ("there", "here"))
    return say_count(
        "only {count} episode, and {here} are here", "only {count} episodes, and {here} are here", there, here=here
    )


WORKS: Mapping[str, str | Callable[[Values], str]] = {
    "name_from_label": "from the source's name",
    "name_by_pattern": "by the pattern for its kind, from its tags",
    "name_made_safe": "signs that a file name can't have ({file_system}) were replaced",
    "pattern_of_kind": "the pattern for files of this kind",
    "tag_unknown": "nothing is known of it",
    "tag_film": "taken for a film: nothing says otherwise",
    "tag_from_label": "from the disc's label, “{label}”",
    "tag_from_folder": "from the folder's name, “{name}”",
    "tag_from_file": "from the file's name, “{name}”",
    "tag_from_source": "from the source's own name for it",
    "tag_beside": "from {name}, which lies beside it",
    "tag_looked_up": "looked up at {service}, where it is called “{work}”",
    "tag_written": "written in the file",
    "tag_by_role": "by what the title seems to be on its disc",
    "tag_joined": "from the titles that were joined",
    "tag_by_hand": "set for this title",
    "tag_meaningless": "the disc is called “{label}”, which says nothing of it: look at it",
    "tag_first_season": "no name says which season it is; taken for the first",
    "tag_counted": "by its place among the episodes of its disc",
    "tag_counted_on": "counted on from the {before} episodes of the discs before it",
    "tag_counted_unknown": "counted from 1, but this is disc {disc}: look at it",
    "tag_another_film": "another film of the same disc: its label does not say which",
    "plays_without_what_was_set": "it plays as it is; a copy gets the tags, chapters and artwork that were set",
    "artwork_not_asked": "nobody has asked for one",
    "artwork_not_held": "{container} holds no artwork",
    "artwork_not_shown": "the device shows none",
    "artwork_own": "the one that belongs to the title",
    "artwork_to_be_found": "the frame that seems best; it is looked for before the file is made",
    "artwork_frame": in_time("the frame at {at_s}"),
    "made_without_artwork": "made without its artwork: {what}",
    # how a work that is looked up stands to what is here
    "work_name": "the name is the same",
    "work_name_other": "the name is another",
    "work_year": "of {there}, as here",
    "work_year_other": "of {there}, here {here}",
    "work_year_untold": "its year is not told",
    "work_length": in_time("{there_s} long, here {here_s}"),
    "work_length_sped_here": in_time("{there_s} long, here {here_s}: the same, shown at 25 frames a second"),
    "work_length_sped_there": in_time("{there_s} long where it is shown at 25 frames a second, here {here_s}"),
    "work_length_other": in_time("{there_s} long, here {here_s}: another cut, or another film"),
    "work_length_untold": "its length is not told",
    "work_season_other": "season {there}, here {here}",
    "work_episodes": _as_many,
    "work_episodes_some": _some_of,
    "work_episodes_more_here": _more_here,
    "work_episodes_untold": "its episodes are not told",
    "work_episode_lengths": "the lengths of all of them agree",
    "work_episode_lengths_other": "the lengths of {like} of {of} agree",
    "work_episodes_anywhere": "they may begin with episode {first} or with {other}: the lengths fit both, look at them",
    "work_episodes_moved": "by their lengths they begin with episode {there}, not {here}",
}
