"""Media files: one as a source of its own, or a folder of them as one source with many titles."""

from __future__ import annotations

import os
from collections.abc import Iterator, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from pathlib import Path

from ...chapters import placed
from ...engine import MAX_PIXELS, probe
from ...errors import BadChapters, EmptyDisc, NotASource, SourceError
from ...media import Artwork, FileData, Problem, Reason, Role, Source, SourceForm, SourceKind, Title
from ...naming.episodes import EpisodeName, episode_name, natural_key, tidy_name
from ...system import check_inside, path_text, shown
from ..progress import ScanProgress
from .measured import Measured, measure
from .sidecars import artwork_beside, chapters_beside, facts_beside, subtitles_beside

VIDEO_SUFFIXES = frozenset(
    {".mp4", ".m4v", ".mov", ".mkv", ".webm", ".avi", ".divx", ".wmv", ".asf", ".mpg", ".mpeg", ".vob", ".ts", ".m2ts"}
    | {".mts", ".m2v", ".flv", ".f4v", ".ogm", ".ogv", ".3gp", ".3g2", ".rm", ".rmvb", ".nut", ".mxf", ".dv", ".wtv"}
    | {".mk3d", ".m1v", ".mpv", ".trp", ".tp", ".vro", ".mod", ".tod", ".gxf", ".nsv", ".nuv", ".ivf", ".amv", ".qt"}
)
SOUND_SUFFIXES = frozenset(
    {".mp3", ".m4a", ".aac", ".ac3", ".flac", ".ogg", ".oga", ".opus", ".wav", ".mka", ".dts", ".wma", ".aiff"}
    | {".aif", ".wv", ".ape", ".tak", ".tta", ".mpc", ".mp+", ".dsf", ".dff", ".caf", ".au", ".amr", ".mp2", ".eac3"}
    | {".w64", ".spx", ".weba", ".thd", ".mlp", ".ra", ".oma", ".m4b", ".voc", ".shn"}
)
FILE_SUFFIXES = VIDEO_SUFFIXES | SOUND_SUFFIXES
EXTRA_WORDS = ("trailer", "featurette", "behind the scenes", "deleted scene", "sample", "interview", "making of")
DEEPEST = 3
MOST_FILES = 2000
AT_ONCE = 2


@dataclass(frozen=True, slots=True, kw_only=True)
class _Found:
    """A file of a folder, with what its name says of a series."""

    path: Path
    key: str
    name: EpisodeName | None


def read_file(path: Path, progress: ScanProgress) -> Source:
    """Read a media file. Raises ``NotASource`` or ``ForbiddenFormat``."""
    progress.at(1, 1)
    title, problems = read_title(path, list(path.parent.iterdir()))
    title = replace(title, number=1, key=path_text(path.name))
    reason = Reason(code="only_title" if title.video else "only_sound")
    return Source(
        kind=SourceKind.FILES,
        form=SourceForm.FILE,
        label=title.tags.get("title") or shown(path.stem),
        path=str(path),
        size_bytes=title.size_bytes,
        titles=(replace(title, role=Role.FEATURE, reasons=(reason,)),),
        problems=tuple(replace(problem, title=1) for problem in problems),
    )


def is_media_folder(path: Path) -> bool:
    """Whether any media file lies in a folder or little below it."""
    return path.is_dir() and next(_media_files(path), None) is not None


def read_folder(path: Path, progress: ScanProgress) -> Source:
    """Read a folder of media files, in the order in which people count. Raises ``EmptyDisc`` or ``Stopped``."""
    found = _ordered(path)
    problems: list[Problem] = []
    titles: list[Title] = []
    with ThreadPoolExecutor(AT_ONCE) as pool:
        reading = [pool.submit(read_title, entry.path, list(entry.path.parent.iterdir())) for entry in found]
        try:
            for number, (entry, task) in enumerate(zip(found, reading, strict=True), start=1):
                progress.at(number, len(found))
                try:
                    title, told = task.result()
                except SourceError as error:
                    problems.append(_problem(error.code, "file_refused", name=shown(entry.key), error=error.message))
                    continue
                except OSError as error:
                    said = {"name": shown(entry.key), "reason": error.strerror}
                    problems.append(_problem("source_unreadable", "file_unreadable", **said))
                    continue
                titles.append(_in_folder(replace(title, number=len(titles) + 1, key=path_text(entry.key)), entry))
                problems += [replace(problem, title=len(titles)) for problem in told]
        finally:
            pool.shutdown(cancel_futures=True)
    if not titles:
        raise EmptyDisc("{path} holds no media file that can be read.", path=path.name, advice="Choose another folder.")
    return Source(
        kind=SourceKind.FILES,
        form=SourceForm.FOLDER,
        label=shown(path.name),
        path=str(path),
        size_bytes=sum(title.size_bytes for title in titles),
        titles=tuple(titles),
        problems=tuple(problems),
    )


def _media_files(folder: Path) -> Iterator[Path]:
    count = 0
    for place, inner, names in os.walk(folder):
        depth = len(Path(place).relative_to(folder).parts)
        inner[:] = sorted(name for name in inner if not name.startswith(".")) if depth < DEEPEST else []
        for name in sorted(names):
            if not name.startswith(".") and Path(name).suffix.lower() in FILE_SUFFIXES:
                yield Path(place) / name
                count += 1
                if count >= MOST_FILES:
                    return


def _ordered(folder: Path) -> Sequence[_Found]:
    """Numbered files by season and episode within their series, the others by name, both as people count."""
    found = [
        _Found(path=path, key=str(path.relative_to(folder)), name=episode_name(path.stem, path.parent.name))
        for path in _media_files(folder)
    ]

    def order(entry: _Found) -> tuple[object, ...]:
        where = natural_key(str(Path(entry.key).parent))
        if entry.name is None:
            return (where, 1, natural_key(entry.path.stem))
        name = entry.name
        return (where, 0, natural_key(name.series), name.season or 0, name.episode)

    return sorted(found, key=order)


def _in_folder(title: Title, entry: _Found) -> Title:
    """The title with name and role as one of a folder's."""
    stem = tidy_name(shown(entry.path.stem))
    lowered = stem.lower()
    if any(word in lowered for word in EXTRA_WORDS):
        return replace(title, name=stem, role=Role.EXTRA, reasons=(Reason(code="named_extra"),))
    if entry.name is not None and title.video is not None:
        if entry.name.season is None:
            reason = Reason(code="numbered_part", values={"episode": entry.name.episode})
        else:
            values: dict[str, object] = {"season": entry.name.season, "episode": entry.name.episode}
            reason = Reason(code="numbered_episode", values=values)
        return replace(title, name=stem, role=Role.EPISODE, reasons=(reason,))
    name = title.tags.get("title") if title.video is None else None
    reason = Reason(code="own_file" if title.video else "only_sound")
    return replace(title, name=name or stem, role=Role.FEATURE, reasons=(reason,))


def read_title(path: Path, siblings: Sequence[Path]) -> tuple[Title, tuple[Problem, ...]]:
    """A file as a title, and what is wrong with it. Raises ``SourceError`` or ``OSError``."""
    check_inside(path)
    probed = probe(str(path))
    if probed.video and probed.video.width * probed.video.height > MAX_PIXELS:
        raise NotASource(
            "{path} claims a picture of {width}x{height}; that is too large.",
            path=path.name,
            width=probed.video.width,
            height=probed.video.height,
        )
    measured = measure(str(path), probed)
    found = measured.found
    attached = Artwork(path=str(path), stream=found.attached_picture) if found.attached_picture is not None else None
    title = Title(
        number=0,
        duration_s=found.duration_s,
        size_bytes=found.size_bytes,
        data=FileData(path=str(path)),
        container=found.container,
        video=found.video,
        audio=found.audio,
        subtitles=(*found.subtitles, *subtitles_beside(path, siblings, len(found.subtitles))),
        chapters=tuple(c for c in found.chapters if c.start_s < found.duration_s or c.number == 1),
        gaps=measured.gaps,
        promised_s=round(measured.promised_s, 3) if measured.cut_off else None,
        tags=found.tags,
        artwork=attached or artwork_beside(path, siblings),
        beside=facts_beside(path, siblings),
    )
    title, told = _with_chapters(title, path, siblings)
    return title, (*_problems(path, measured), *told)


def _with_chapters(title: Title, path: Path, siblings: Sequence[Path]) -> tuple[Title, tuple[Problem, ...]]:
    """With the chapters of a list that somebody put beside the file, which count more than its own."""
    name = shown(path.name)
    try:
        found = chapters_beside(path, siblings)
        made = placed(found[1], title.chapters, title.duration_s) if found else None
    except BadChapters as error:
        return title, (_problem("bad_chapters", "chapters_beside_refused", name=name, error=error.what),)
    if found is None or made is None:
        return title, ()
    listed = shown(found[0].name)
    told = (_problem("bad_chapters", "chapters_beside_not_all", name=name, listed=listed),) if made.told else ()
    return replace(title, chapters=made.chapters), told


def _problems(path: Path, measured: Measured) -> Iterator[Problem]:
    name = shown(path.name)
    if measured.cut_off:
        ends = {"ends_s": measured.ends_s, "promised_s": measured.promised_s}
        yield _problem("cut_off", "file_cut_off", name=name, **ends)
    for gap in measured.gaps:
        yield _problem("unreadable", "file_gap", name=name, from_s=gap.from_s, to_s=gap.to_s)
    if measured.empty:
        yield _problem("stream_empty", "streams_empty", name=name, streams=len(measured.empty))


def _problem(code: str, reason: str, /, **values: object) -> Problem:
    return Problem(code=code, reason=Reason(code=reason, values=values))
