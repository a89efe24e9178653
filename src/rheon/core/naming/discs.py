"""What the titles of a disc seem to be called: by the folder where a person has named it, by its label else."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from dataclasses import replace

from ..media import ContentKind, Proposed, ProposedTags, Reason, Role, Source, Title
from .labels import is_meaningless, read_name
from .names import display_name
from .sureness import BY_PEOPLE, FIRST_SEASON, GUESSED, LABEL, ORDER, SURE_FROM
from .titles import title_names
from .written import told_beside

DISC_FOLDERS = frozenset({"video_ts", "bdmv", "audio_ts", "dvd", "bluray", "disc"})
IMAGE = re.compile(r"\.(?:iso|img|udf)$", re.IGNORECASE)
VOLUME = re.compile(r"[ ,–-]+vol(?:ume)?[ .]*(?P<disc>\d{1,2})$", re.IGNORECASE)
OF_SERIES = ("show", "season", "year", "genre", "cast")
BY_ROLE = Reason(code="tag_by_role")

Work = Mapping[str, Proposed]
"""What a disc's names say of all that is on it, by the parts of a name."""


def disc_work(source: Source) -> Work:
    """It has a title in any case. What one name does not say, the other may."""
    folder = _folder_name(source)
    told = [
        (name, Reason(code=code, values={key: name}), sure)
        for name, code, key, sure in (
            (folder, "tag_from_folder", "name", BY_PEOPLE),
            (source.label, "tag_from_label", "label", LABEL),
        )
        if name and not is_meaningless(name)
    ]
    if len(told) == 2 and " " not in folder and folder in (folder.upper(), folder.lower()):
        # nobody has called it anything: the folder is as the disc is, or shorter
        told.reverse()
    read = [(read_name(name), reason, sure) for name, reason, sure in told]
    work: dict[str, Proposed] = {}
    for said, reason, sure in reversed(read):
        work |= {part: Proposed(value=value, reason=reason, sure=sure) for part, value in said.told.items()}
    if "title" not in work:
        reason = Reason(code="tag_meaningless", values={"label": source.label or folder})
        return {**work, "title": Proposed(value=display_name(folder or source.label), reason=reason, sure=GUESSED)}
    if len(read) == 2 and _unlike(read[0][0].title, read[1][0].title):
        work["title"] = replace(work["title"], sure=SURE_FROM)
    return _without_volume(work) if any(title.role is Role.EPISODE for title in source.titles) else work


def _without_volume(work: Work) -> Work:
    """A series is sold by the volume; that of a film belongs to its title."""
    title = work["title"]
    if (found := VOLUME.search(str(title.value))) is None:
        return work
    named = replace(title, value=str(title.value)[: found.start()])
    return {"disc": replace(title, value=int(found["disc"])), **work, "title": named}


def tags_of_disc(source: Source, episodes_before: int | None) -> Iterator[tuple[int, ProposedTags]]:
    """Tags for each title, with its number."""
    work = disc_work(source)
    disc = work["disc"].value if "disc" in work else None
    episodes = [title.number for title in source.titles if title.role is Role.EPISODE]
    film = next((title.number for title in source.titles if title.role is Role.FEATURE), None)
    names = title_names(str(work["title"].value), source.titles)
    for title in source.titles:
        found: dict[str, Proposed] = {}
        if title.role is Role.EPISODE:
            kind, place = ContentKind.EPISODE, episodes.index(title.number) + 1
            found |= {"show": work["title"], "season": work.get("season", FIRST_SEASON)}
            found |= {"episode": _counted(place, disc, episodes_before), **_among(work, "year")}
        elif title.role in (Role.FEATURE, Role.DUPLICATE):
            kind = ContentKind.FILM
            found |= {"title": work["title"] if title.number == film else _another(work["title"])}
            found |= _among(work, "year", "edition", "part")
        else:
            kind = ContentKind.EXTRA
            found |= {"title": Proposed(value=names[title.number], reason=BY_ROLE, sure=SURE_FROM)}
            found |= {"show": work["title"]} if episodes else {}
        if title.name and title.role is not Role.FEATURE:
            found["title"] = Proposed(value=title.name, reason=Reason(code="tag_from_source"), sure=BY_PEOPLE)
        found = {"kind": Proposed(value=kind.value, reason=BY_ROLE, sure=ORDER), **found, **_beside(title, kind)}
        yield title.number, ProposedTags(found=found)


def _beside(title: Title, kind: ContentKind) -> Work:
    """What documents say of a title; of an episode only what is its series', since a disc has several."""
    told = told_beside(title)
    if kind is ContentKind.EPISODE:
        return _among(told, *OF_SERIES) if "kind" not in told else {}
    return told if "show" not in told else {}


def _among(work: Work, *tags: str) -> Work:
    return {tag: work[tag] for tag in tags if tag in work}


def _another(title: Proposed) -> Proposed:
    return replace(title, reason=Reason(code="tag_another_film"), sure=GUESSED)


def _counted(place: int, disc: str | int | None, before: int | None) -> Proposed:
    """The number of an episode by its place on a disc."""
    if before:
        values: dict[str, object] = {"before": before}
        return Proposed(value=place + before, reason=Reason(code="tag_counted_on", values=values), sure=ORDER)
    if isinstance(disc, int) and disc > 1:
        reason = Reason(code="tag_counted_unknown", values={"disc": disc})
        return Proposed(value=place, reason=reason, sure=GUESSED)
    return Proposed(value=place, reason=Reason(code="tag_counted"), sure=ORDER)


def _folder_name(source: Source) -> str:
    pieces = [piece for piece in source.path.split("/") if piece]
    while len(pieces) > 1 and pieces[-1].lower() in DISC_FOLDERS:
        pieces.pop()
    return IMAGE.sub("", pieces[-1]) if pieces else ""


def _unlike(one: str, other: str) -> bool:
    plain = [re.sub(r"\W", "", name.casefold()) for name in (one, other)]
    return bool(plain[0] and plain[1]) and not (plain[0].startswith(plain[1]) or plain[1].startswith(plain[0]))
