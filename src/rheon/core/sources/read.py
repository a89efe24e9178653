"""From a path to a source: recognise what it is, and let the reader for it do the rest."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from pathlib import Path

from ..errors import EmptyDisc, NotASource, SourceError, SourceMissing
from ..media import Role, Source, SourceKind
from ..system import is_there, real_path
from .bluray.reader import read_bluray
from .dvd.reader import read_dvd
from .files.reader import is_media_folder, read_file, read_folder
from .files.sidecars import artwork_of_disc, facts_of_disc
from .images.disc_files import (
    BLURAY_FOLDER,
    VIDEO_FOLDER,
    DiscFiles,
    bluray_folder,
    is_image,
    open_bluray_folder,
    open_folder,
    open_image,
    video_folder,
)
from .progress import ScanProgress


@dataclass(frozen=True, slots=True, kw_only=True)
class Reader:
    """One kind of source: how it is recognised, and how it is read. Add a kind by adding a row to ``READERS``."""

    name: str
    recognises: Callable[[Path], bool]
    read: Callable[[Path, ScanProgress], Source]


READERS: tuple[Reader, ...] = (
    Reader(
        name="DVD folder",
        recognises=lambda path: path.is_dir() and video_folder(path) is not None,
        read=lambda path, progress: read_dvd(open_folder(path), progress),
    ),
    Reader(
        name="Blu-ray folder",
        recognises=lambda path: path.is_dir() and bluray_folder(path) is not None,
        read=lambda path, progress: read_bluray(open_bluray_folder(path), progress),
    ),
    Reader(
        name="disc image",
        recognises=lambda path: not path.is_dir() and is_image(path),
        read=lambda path, progress: _read_image(open_image(path), progress),
    ),
    Reader(
        name="playlist",
        recognises=lambda path: path.suffix.lower() == ".mpls" and path.parent.name.upper() == "PLAYLIST",
        read=lambda path, progress: read_bluray(open_bluray_folder(path.parent.parent), progress, only=path.stem),
    ),
    Reader(name="file", recognises=lambda path: path.is_file(), read=read_file),
    Reader(name="folder of files", recognises=is_media_folder, read=read_folder),
)


def _read_image(files: DiscFiles, progress: ScanProgress) -> Source:
    return read_bluray(files, progress) if files.bluray else read_dvd(files, progress)


def read_source(path: Path, progress: ScanProgress | None = None) -> Source:
    """Read whatever lies at ``path``. Raises ``SourceError`` or ``Stopped``."""
    try:
        return _read(real_path(path), progress or ScanProgress())
    except FileNotFoundError as error:
        raise SourceMissing("There is nothing at {path}.", path=path) from error
    except PermissionError as error:
        raise SourceError(
            "{path} may not be read.", path=path.name, advice="Change its permissions and try again."
        ) from error
    except OSError as error:
        raise SourceError("{path} can't be read: {reason}.", path=path.name, reason=error.strerror) from error


def _with_beside(source: Source, path: Path) -> Source:
    """With what lies in a disc's folder, or beside its image, for its film or its episodes."""
    if not path.is_file() and not path.is_dir():
        return source
    disc = path.parent if path.name.upper() in (VIDEO_FOLDER, BLURAY_FOLDER) else path
    facts, artwork = facts_of_disc(disc), artwork_of_disc(disc)
    titles = (
        replace(title, beside=facts, artwork=artwork or title.artwork)
        if title.role in (Role.FEATURE, Role.EPISODE)
        else title
        for title in source.titles
    )
    return replace(source, titles=tuple(titles))


def _read(path: Path, progress: ScanProgress) -> Source:
    if not is_there(path):
        raise SourceMissing("There is nothing at {path}.", path=path)
    for reader in READERS:
        if reader.recognises(path):
            source = reader.read(path, progress)
            return source if source.kind is SourceKind.FILES else _with_beside(source, path)
    entries = list(path.iterdir()) if path.is_dir() else []
    if path.is_dir() and not entries:
        raise EmptyDisc("{path} is an empty folder.", path=path.name)
    raise NotASource("{path} holds nothing that Rheon reads.", path=path.name)
