"""What a media file seems to be called: by its own name, by the folders around it, and by what is written in it."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace

from ..media import ContentKind, FileData, Proposed, ProposedTags, Reason, Role, Title
from .episodes import tidy_name
from .labels import NameParts, is_meaningless, read_name
from .sureness import BY_PEOPLE, FIRST_SEASON, ORDER, SURE_FROM, WRITTEN
from .written import told_beside, written_in

NUMBER_FIRST = re.compile(r"(?P<episode>\d{1,3})(?:[ .]*[-–][ .]*|[ .]+)(?P<title>\D.*)$")
NUMBER_ALONE = re.compile(r"(?:e|ep|episode)?[ .]*(?P<episode>\d{1,3})", re.IGNORECASE)
EXTRA_FOLDERS = frozenset({"extras", "extra", "trailers", "featurettes", "bonus", "deleted scenes", "interviews"})


def tags_of_file(title: Title, source_path: str) -> ProposedTags:
    path = title.data.path if isinstance(title.data, FileData) else source_path
    *folders, name = [piece for piece in path.split("/") if piece]
    stem = name.rpartition(".")[0] or name
    found = _by_file_name(title, stem, folders)
    return ProposedTags(found={**found, **written_in(title, stem), **told_beside(title)})


def _by_file_name(title: Title, stem: str, folders: Sequence[str]) -> dict[str, Proposed]:
    reason = Reason(code="tag_from_file", values={"name": stem})
    if title.video is None:
        return _sound(tidy_name(stem), reason)
    above, above_reason = _season_above(folders)
    said = _numbered(stem, in_season=above.season is not None)
    found = _told(said, ("year", "edition", "part"), reason)
    if said.episode is None:
        extra = title.role is Role.EXTRA or (bool(folders) and folders[-1].casefold() in EXTRA_FOLDERS)
        kind = ContentKind.EXTRA if extra else ContentKind.FILM
        found["kind"] = Proposed(value=kind.value, reason=reason, sure=ORDER)
        return {**found, "title": Proposed(value=said.title or stem, reason=reason, sure=BY_PEOPLE)}
    return {
        "kind": Proposed(value=ContentKind.EPISODE.value, reason=reason, sure=BY_PEOPLE),
        "season": FIRST_SEASON,
        **({"show": Proposed(value=above.title, reason=above_reason, sure=ORDER)} if above.title else {}),
        **_told(above, ("season",), above_reason),
        **_told(said, ("season", "episode"), reason),
        **({"show": Proposed(value=said.title, reason=reason, sure=BY_PEOPLE)} if said.title else {}),
        **_episode_title(said.episode_title, reason),
        **found,
    }


def _told(said: NameParts, tags: Sequence[str], reason: Reason) -> dict[str, Proposed]:
    """Of what a name says the parts that are tags by their own name."""
    told = said.told
    return {tag: Proposed(value=told[tag], reason=reason, sure=BY_PEOPLE) for tag in tags if tag in told}


def _episode_title(text: str, reason: Reason) -> dict[str, Proposed]:
    """A number behind the number says nothing more."""
    return {"title": Proposed(value=text, reason=reason, sure=BY_PEOPLE)} if text and not text.isdecimal() else {}


def _numbered(stem: str, *, in_season: bool) -> NameParts:
    """What a file's name says; in a season's folder a number that stands first or alone is an episode's."""
    said = read_name(stem)
    if said.episode is not None or not in_season:
        return said
    text = tidy_name(stem)
    if found := NUMBER_ALONE.fullmatch(text):
        return NameParts(episode=int(found["episode"]))
    if found := NUMBER_FIRST.match(text):
        return NameParts(episode=int(found["episode"]), episode_title=read_name(found["title"]).title)
    return said


def _season_above(folders: Sequence[str]) -> tuple[NameParts, Reason]:
    """Show and season by the folders in which a file lies, the innermost first."""
    above, named = NameParts(), ""
    for folder in [*reversed(folders)][:2]:
        said = read_name(folder)
        if above.season is None and said.season is not None:
            above, named = replace(above, season=said.season, title=said.title), folder
        elif said.title and not is_meaningless(folder):
            above, named = replace(above, title=said.title), folder
        if above.title:
            break
    return above, Reason(code="tag_from_folder", values={"name": named})


def _sound(text: str, reason: Reason) -> dict[str, Proposed]:
    artist, dash, piece = text.partition(" - ")
    kind = Proposed(value=ContentKind.SOUND.value, reason=reason, sure=WRITTEN)
    if not dash or artist.isdecimal():
        piece = re.sub(r"^\d{1,3}[ .]*[-–.]? *(?=\D)", "", piece if dash else text)
        return {"kind": kind, "title": Proposed(value=piece or text, reason=reason, sure=ORDER)}
    return {
        "kind": kind,
        "artist": Proposed(value=artist, reason=reason, sure=SURE_FROM),
        "title": Proposed(value=piece, reason=reason, sure=SURE_FROM),
    }
