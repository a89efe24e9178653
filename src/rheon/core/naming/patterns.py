"""What files are called: patterns that people write, in the sandbox of a known template language. Pure."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, fields, replace
from functools import lru_cache
from typing import Literal, get_args

from jinja2 import StrictUndefined, Template, TemplateError, nodes
from jinja2.sandbox import ImmutableSandboxedEnvironment

from ..catalogue import later
from ..errors import BadPattern
from ..media import ContentKind, Tags
from .names import safe_stem

LONGEST_PATTERN = 400
MOST_FOLDERS = 6
LONGEST_PATH = 200
"""Signs of a name with its folders: Windows opens no path of more than 260, with the folder in which all lies."""
FILTERS = frozenset({"upper", "lower", "capitalize", "title", "trim", "default", "replace", "int"})
PLAIN = (
    nodes.Output, nodes.TemplateData, nodes.Name, nodes.Const, nodes.If, nodes.CondExpr, nodes.Filter, nodes.Compare,
    nodes.Operand, nodes.And, nodes.Or, nodes.Not, nodes.Concat,
)  # fmt: skip
"""What a pattern is made of: nothing that repeats, calls, counts or reaches into a value."""
YEAR = "{% if year %} ({{ year }}){% endif %}"
EDITION = "{% if edition %} ({{ edition }}){% endif %}"
PART = "{% if part %}, part {{ part }}{% endif %}"
NUMBER = "{% if season %}S{{ season }}{% endif %}{% if episode %}E{{ episode }}{% endif %}"
OWN = "{% if title %} - {{ title }}{% endif %}"
ARTIST = "{% if artist %}{{ artist }} - {% endif %}"


@dataclass(frozen=True, slots=True, kw_only=True)
class Naming:
    """A pattern for each kind of content; ``/`` begins a file's own name behind the folder before it."""

    film: str = f"{{{{ title }}}}{YEAR}{EDITION}{PART}"
    episode: str = f"{{{{ show }}}} - {NUMBER}{OWN}"
    extra: str = f"{{{{ title }}}}{EDITION}"
    sound: str = f"{ARTIST}{{{{ title }}}}"

    def of(self, kind: ContentKind) -> str:
        return str(getattr(self, kind.value))

    def changed(self, patterns: Mapping[str, str]) -> Naming:
        """With other patterns for some kinds; what is empty stays as it is."""
        return replace(self, **{kind: one for kind, one in patterns.items() if one})


FLAT = Naming()
IN_FOLDERS = Naming(
    film=f"{{{{ title }}}}{YEAR}/{{{{ title }}}}{YEAR}{EDITION}{PART}",
    episode=f"{{{{ show }}}}/{{% if season %}}Season {{{{ season }}}}/{{% endif %}}{{{{ show }}}} - {NUMBER}{OWN}",
    extra=f"{{% if show %}}{{{{ show }}}}/{{% endif %}}Extras/{{{{ title }}}}{EDITION}",
    sound=f"{{% if artist %}}{{{{ artist }}}}/{{% endif %}}{ARTIST}{{{{ title }}}}",
)
PresetName = Literal["flat", "folders"]
PRESETS: Mapping[PresetName, Naming] = {"flat": FLAT, "folders": IN_FOLDERS}
PRESET_NAMES: Mapping[PresetName, str] = {
    "flat": later("one folder for all"),
    "folders": later("a folder for each film, series and season"),
}
KIND_NAMES: Mapping[ContentKind, str] = {
    ContentKind.FILM: later("film"),
    ContentKind.EPISODE: later("episode"),
    ContentKind.EXTRA: later("extra"),
    ContentKind.SOUND: later("sound"),
}
PLACES: Mapping[str, str] = {
    "title": later("title of the film, episode or piece"),
    "show": later("the series"),
    "season": later("its number, as 01"),
    "episode": later("its number, as 02"),
    "part": later("its number, where a work is in several"),
    "year": later("the year"),
    "edition": later("which version it is"),
    "genre": later("the genre"),
    "director": later("who directed"),
    "artist": later("who plays or sings"),
    "kind": later("film, episode, extra or sound"),
    "device": later("what the file is for"),
    "language": later("language of the first audio track"),
}
"""What a pattern can name, and what that is."""
_EVERYTHING = Tags(
    kind=ContentKind.EPISODE, title="x", show="x", season=1, episode=1, part=1, year=2000, edition="x", genre="x",
    director="x", artist="x",
)  # fmt: skip
_MORE = {"device": "x", "language": "x"}


def pattern_of(said: str, kind: ContentKind) -> str:
    """The pattern that a preset has for a kind, or the one that was said itself."""
    preset = next((name for name in get_args(PresetName) if name == said), None)
    return PRESETS[preset].of(kind) if preset else said


def line_of(pattern: str, tags: Tags, more: Mapping[str, str]) -> str:
    """A line that a pattern makes, which can name ``more`` beside the tags. Raises ``BadPattern``."""
    return " ".join(_filled(pattern, tags, more).split())


def read_pattern(text: str) -> str:
    """The pattern, if it can be used. Raises ``BadPattern``."""
    if not _pieces(text, _EVERYTHING, _MORE):
        raise BadPattern("This pattern names nothing.", pattern=text)
    return text


def file_path(pattern: str, tags: Tags, more: Mapping[str, str], file_system: str = "posix") -> str:
    """A file's name without its ending, behind its folders, as the file system takes it.

    ``more`` are values that are no tags. What is in a value begins no folder. Raises ``BadPattern``.
    """
    pieces = _pieces(pattern, tags, more) or [tags.shown_title]
    return _fitting([safe_stem(piece, file_system) for piece in pieces], file_system)


def _pieces(pattern: str, tags: Tags, more: Mapping[str, str]) -> list[str]:
    """Folders and name; those that come to nothing are left out."""
    made = _filled(pattern, tags, more)
    pieces = [piece for piece in (one.strip(" -–,.") for one in made.split("/")) if piece]
    return pieces if len(pieces) <= MOST_FOLDERS else [*pieces[: MOST_FOLDERS - 1], pieces[-1]]


def _filled(pattern: str, tags: Tags, more: Mapping[str, str]) -> str:
    try:
        return _compiled(pattern, tuple(dict.fromkeys([*PLACES, *more]))).render(_values(tags, more))
    except TemplateError as error:
        raise BadPattern("This pattern can't be filled: {said}", said=str(error), pattern=pattern) from None


def _fitting(pieces: list[str], file_system: str) -> str:
    """All of the path in what every system opens: the longest pieces are shortened first."""
    while len("/".join(pieces)) > LONGEST_PATH:
        at = max(range(len(pieces)), key=lambda place: len(pieces[place]))
        pieces[at] = safe_stem(pieces[at][: len(pieces[at]) - 10], file_system)
    return "/".join(pieces)


def _values(tags: Tags, more: Mapping[str, str]) -> dict[str, str]:
    said = {one.name: getattr(tags, one.name) for one in fields(tags)}
    for name in ("season", "episode"):
        said[name] = "" if said[name] is None else f"{said[name]:02}"
    said = {name: "" if value is None else value for name, value in said.items()}
    places = dict.fromkeys(PLACES, "")
    return {name: str(value).replace("/", "-").replace("\\", "-") for name, value in {**places, **said, **more}.items()}


@lru_cache(maxsize=64)
def _compiled(text: str, known: tuple[str, ...]) -> Template:
    """Raises ``BadPattern``."""
    if len(text) > LONGEST_PATTERN:
        raise BadPattern("This pattern is longer than {most} signs.", most=LONGEST_PATTERN, pattern=text)
    environment = ImmutableSandboxedEnvironment(undefined=StrictUndefined, autoescape=False)
    try:
        for node in environment.parse(text).iter_child_nodes():
            _check(node, text, known)
        return environment.from_string(text)
    except TemplateError as error:
        raise BadPattern("This pattern can't be read: {said}", said=str(error), pattern=text) from None


def _check(node: nodes.Node, text: str, known: tuple[str, ...]) -> None:
    if not isinstance(node, PLAIN) or (isinstance(node, nodes.Filter) and node.name not in FILTERS):
        what = node.name if isinstance(node, nodes.Filter) else type(node).__name__.lower()
        raise BadPattern("A pattern can't use “{what}”: only names, filters and if.", what=what, pattern=text)
    if isinstance(node, nodes.Name) and node.name not in known:
        raise BadPattern("There is no “{name}”; a pattern can name {known}.", name=node.name, known=", ".join(known))
    for child in node.iter_child_nodes():
        _check(child, text, known)
