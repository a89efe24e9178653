"""What is written into the file for people, a decision for each tag."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, cast

from ....catalogue import later, say
from ....errors import BadPin
from ....media import TAG_FIELDS, ContentKind
from ....media.tags import LONG_TEXTS, LONGEST_TAG, LONGEST_TEXT, MOST_NUMBER, NUMBERS
from ....naming.patterns import KIND_NAMES
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, Form, OneOf, Special, Unreadable


def tag_choices(tag: str) -> tuple[Choice, ...]:
    """The values of a tag that has few."""
    if tag != "kind":
        return ()
    return tuple(Choice(value=kind.value, text=say(name)) for kind, name in KIND_NAMES.items())


def read_tag(tag: str, said: str) -> int | str:
    """A tag as its decision reads it. Raises ``BadPin``."""
    found = BY_TAG.get(tag)
    if found is None:
        raise BadPin("“{pin}” is no decision that can be set.", pin=f"file.{tag}")
    return cast("int | str", found.read(said.strip()))


def _number(said: str) -> int | str:
    if not said:
        return ""
    if not (said.isdecimal() and int(said[:9]) <= MOST_NUMBER):
        raise Unreadable("“{said}” is no number from 0 to {most}.", said=said, most=MOST_NUMBER)
    return int(said)


def _line(longest: int) -> Callable[[str], str]:
    def read(said: str) -> str:
        if len(said.encode()) > longest:
            raise Unreadable("This is longer than {most} bytes, which is what players take.", most=longest)
        return said.strip() if longest == LONGEST_TEXT else " ".join(said.split())

    return read


@dataclass(frozen=True)
class _Show:
    """How a tag of a plan is shown."""

    tag: str

    def __call__(self, case: Case) -> Shown | None:
        value = getattr(case.made.tags, self.tag)
        reason = case.reasons.get(f"file.{self.tag}")
        if reason is None:
            return None
        text = "" if value is None else str(value)
        if self.tag == "kind":
            return Shown(value=text, text=say(KIND_NAMES[value]), reason=reason, choices=tag_choices(self.tag))
        return Shown(value=text, text=text or say("none"), reason=reason, fine=not text)


def _form(tag: str) -> Form[Any]:
    if tag == "kind":
        return OneOf(tuple(kind.value for kind in ContentKind), "kind of content")
    if tag in NUMBERS:
        return Special(_number, f"0 to {MOST_NUMBER}, or nothing")
    return Special(_line(LONGEST_TEXT if tag in LONG_TEXTS else LONGEST_TAG), "text")


def _kind(tag: str, label: str, about: str, *, own: bool = False) -> DecisionKind[Any]:
    return DecisionKind(
        key=f"file.{tag}", label=label, help=about, form=_form(tag), show=_Show(tag), own=own, told_under="tags"
    )


TAGS = (
    _kind("kind", later("Kind"), later("What the file is, by which players and libraries sort it.")),
    _kind("title", later("Title"), later("The title of the film, episode or piece."), own=True),
    _kind("show", later("Series"), later("The series to which an episode belongs.")),
    _kind("season", later("Season"), later("The season's number.")),
    _kind("episode", later("Episode"), later("The episode's number."), own=True),
    _kind("part", later("Part"), later("Which part it is of a work that is in several."), own=True),
    _kind("year", later("Year"), later("The year in which the work came out.")),
    _kind("edition", later("Edition"), later("Which version of the work it is.")),
    _kind("genre", later("Genre"), later("The genre.")),
    _kind("director", later("Director"), later("Who directed.")),
    _kind("cast", later("Cast"), later("Who plays, with commas between the names.")),
    _kind("artist", later("Artist"), later("Who plays or sings, of sound.")),
    _kind("description", later("Description"), later("What it is about."), own=True),
    _kind("comment", later("Comment"), later("Whatever is to be remembered."), own=True),
)
"""A decision for each tag of ``media.Tags``, by its name."""
BY_TAG: Mapping[str, DecisionKind[Any]] = {kind.key.partition(".")[2]: kind for kind in TAGS}
"""The decision for each tag, by the tag's name."""
assert (*BY_TAG,) == TAG_FIELDS
