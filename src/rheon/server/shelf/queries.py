"""Reading the Shelf."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any, Literal

from rheon.core.analysis import Survey, survey_of_whole
from rheon.core.catalogue import say
from rheon.core.chapters import Placed
from rheon.core.descriptions import Fact, heard_text, lines_text, picture_facts
from rheon.core.errors import BadPicture
from rheon.core.formats import channels_text, codec_name, is_text
from rheon.core.media import AudioStream, Cover, Problem, Role, SubtitleStream, VideoStream, language_name
from rheon.core.media import Title as CoreTitle
from rheon.core.media.documents import load
from rheon.core.media.joined import places_of
from rheon.core.system import is_there, text_path
from rheon.core.wording import problem_text, sentence

from . import documents
from .actions.artwork import picture_path, stills_of
from .actions.chapters import titles_alike
from .actions.film_folders import proposed_folders
from .actions.frames import FRAMES, STRIP
from .actions.joins import parts_of
from .folders import list_folder
from .models import FilmFolder, Source, Title
from .outlines import by_hand_texts, read_outline

SOURCE_FIELDS = (
    "id", "path", "name", "label", "kind", "form", "size_bytes", "state", "at_title", "title_count",
    "error_code", "error_message", "problems", "drive",
)  # fmt: skip
PAGE_SOURCES, PAGE_TITLES = 200, 1000


@dataclass(frozen=True, slots=True, kw_only=True)
class SourcesPage:
    """The sources from ``first`` to ``last`` (both included), and a mark that changes when any of them does."""

    first: int
    last: int
    mark: str


def film_folders_document() -> documents.FilmFolders:
    """The folders of films, and those that seem to hold some."""
    folders = [
        documents.FilmFolder(
            id=row.pk,
            path=row.path,
            found=row.found,
            looking=row.looked is None,
            present=is_there(text_path(row.path)),
        )
        for row in FilmFolder.objects.all()
    ]
    return documents.FilmFolders(folders=folders, proposals=proposed_folders())


def folder_document(wanted: str | None) -> documents.Folder:
    """Raises ``OutsideFolders`` or ``SourceMissing``."""
    path, parent, entries = list_folder(wanted)
    return documents.Folder(path=path, parent=parent, entries=entries)


def sources_page(after: int) -> SourcesPage:
    """The page behind the source ``after``: few sources with many titles, or many with few."""
    rows = Source.objects.filter(pk__gt=after).order_by("pk")
    seen: list[tuple[object, ...]] = []
    last, titles = after, 0
    for row in rows.values_list("pk", "title_count", "changed", "at_title", "state")[:PAGE_SOURCES]:
        if seen and titles + row[1] > PAGE_TITLES:
            break
        seen.append(row)
        last, titles = row[0], titles + row[1]
    mark = hashlib.sha256(repr(seen).encode()).hexdigest()[:32]
    return SourcesPage(first=after + 1, last=last, mark=mark)


def sources_document(page: SourcesPage) -> list[documents.Source]:
    """The sources of a page with their titles, in two queries and without building rows into objects."""
    titles: dict[int, list[documents.TitleOutline]] = {}
    rows = Title.objects.filter(source_id__gte=page.first, source_id__lte=page.last).values_list(
        "source_id", "id", "number", "name", "duration_s", "role", "role_by_hand", "outline"
    )
    for source_id, pk, number, name, duration_s, role, by_hand, outline in rows:
        strip = {**read_outline(outline), **(by_hand_texts() if by_hand else {})}
        titles.setdefault(source_id, []).append(
            documents.TitleOutline(id=pk, number=number, name=name, duration_s=duration_s, role=Role(role), **strip)
        )
    sources = Source.objects.filter(pk__range=(page.first, page.last)).values(*SOURCE_FIELDS)
    return [
        documents.Source(**{**row, "problems": _problems(row["problems"])}, titles=titles.get(row["id"], []))
        for row in sources
    ]


def _problems(stored: list[dict[str, Any]]) -> list[documents.Problem]:
    """What is wrong with a source, said now; an older Rheon stored the sentence."""
    return [
        documents.Problem(
            code=one["code"],
            title=one["title"],
            message=problem_text(load(Problem, one)) if "reason" in one else one["message"],
        )
        for one in stored
    ]


def title_document(title: Title) -> documents.Title:
    """Everything the title view shows, in words where words are better."""
    core = title.core_title()
    survey = survey_of_whole(core, title.core_survey() or Survey())
    return documents.Title(
        id=title.id,
        source_id=title.source_id,
        source_name=title.source.name,
        number=title.number,
        name=title.name,
        duration_s=title.duration_s,
        size_bytes=core.size_bytes,
        role=Role(title.role),
        role_by_hand=title.role_by_hand,
        reasons=[say("set by hand")] if title.role_by_hand else [sentence(reason) for reason in core.reasons],
        fault=core.fault,
        gaps=core.gaps,
        part_of=core.part_of,
        parts=_parts(title, core),
        parts_agree=core.parts_agree,
        angle=title.angle,
        angles=core.angles,
        looked_at=_looked_at(title, core),
        picture=picture_facts(core, survey),
        borders=_borders(core.video, survey),
        tags=[Fact(topic=key.replace("_", " ").capitalize(), text=text) for key, text in core.tags.items()],
        frames=FRAMES if core.video and not core.fault else 0,
        strip=STRIP if core.video and not core.fault else 0,
        chapters=core.chapters,
        chapters_by_hand=title.chapters_by_hand is not None,
        chapters_alike=titles_alike(title, len(core.chapters)),
        audio=[_audio(track, survey) for track in core.audio],
        subtitles=[_subtitle(track, survey) for track in core.subtitles],
    )


def proposed_chapters(made: Placed | None) -> documents.ProposedChapters:
    """What would become of a title's chapters, in words where words are better."""
    if made is None:
        return documents.ProposedChapters(chapters=(), told=[], looking=True)
    return documents.ProposedChapters(chapters=made.chapters, told=[sentence(one) for one in made.told])


def artwork_document(title: Title) -> documents.Artwork:
    core, frames = title.core_title(), stills_of(title)
    alike = Title.objects.filter(source=title.source_id, role=title.role).exclude(pk=title.pk)
    return documents.Artwork(
        cover=_chosen(core.cover, core) if core.cover else None,
        own=core.artwork is not None,
        frames=frames or [],
        looking=frames is None,
        alike=list(alike.values_list("pk", flat=True)),
    )


def _chosen(cover: Cover, core: CoreTitle) -> documents.Chosen:
    own = core.artwork is not None and core.artwork.path == cover.path
    return documents.Chosen(
        at_s=cover.at_s,
        picture=Path(cover.path).stem if cover.path and not own else None,
        own=own,
        shape=cover.shape,
        across=cover.across,
        down=cover.down,
    )


def cover_of(title: Title, wanted: documents.CoverWanted) -> Cover:
    """The picture that is meant. Raises ``BadPicture``."""
    said = Cover(at_s=wanted.at_s, shape=wanted.shape, across=wanted.across, down=wanted.down)
    if wanted.picture is not None:
        return replace(said, path=str(picture_path(wanted.picture)), at_s=None)
    if not wanted.own:
        return said
    artwork = title.core_title().artwork
    if artwork is None:
        raise BadPicture("No picture came with this title.", advice="Choose a frame, or bring one.")
    return replace(said, path=artwork.path, stream=artwork.stream, at_s=None)


def _parts(title: Title, core: CoreTitle) -> list[documents.JoinedPart]:
    rows = parts_of(title) if core.joined else []
    return [
        documents.JoinedPart(
            id=row.pk if row else None,
            name=placed.part.chapters[0].name or "",
            source_name=row.source.name if row else "",
            at_s=placed.at_s,
            duration_s=placed.part.duration_s,
        )
        for row, placed in zip(rows, places_of(core.joined), strict=False)
    ]


def _looked_at(title: Title, core: CoreTitle) -> Literal["yes", "waiting", "failed"]:
    if title.survey is not None or core.fault:
        return "yes"
    return "failed" if title.survey_failed else "waiting"


def _audio(track: AudioStream, survey: Survey) -> documents.Audio:
    return documents.Audio(
        index=track.index,
        language=language_name(track.language),
        form=f"{codec_name(track.codec)} {channels_text(track.channels)}",
        purpose=track.purpose.value,
        name=track.name,
        heard=heard_text(track, survey),
    )


def _subtitle(track: SubtitleStream, survey: Survey) -> documents.Subtitle:
    form = say("text file") if track.path else say("text") if is_text(track) else say("pictures")
    language, found = language_name(track.language), lines_text(track, survey)
    return documents.Subtitle(index=track.index, language=language, form=form, found=found)


def _borders(video: VideoStream | None, survey: Survey) -> documents.Borders | None:
    """The borders as shares of the picture's width and height, to draw over a frame."""
    found = survey.borders
    if video is None or found is None or not found.any:
        return None
    return documents.Borders(
        top=found.top / video.height,
        bottom=found.bottom / video.height,
        left=found.left / video.width,
        right=found.right / video.width,
        sure=found.sure,
    )
