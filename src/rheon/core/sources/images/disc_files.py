"""The files of a disc, wherever they lie: in a folder, or inside an image that is never unpacked."""

from __future__ import annotations

import contextlib
import io
import re
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import BinaryIO, cast

import pycdlib

from ...errors import CutOffImage, EmptyDisc, NotASource, SourceMissing
from ...media import SECTOR_BYTES, Extent, Problem, Source, SourceForm, SourceKind, Title
from ...system import check_inside, open_inside, real_path, shown
from .udf import NotUdf, UdfImage

VIDEO_FOLDER, BLURAY_FOLDER, KEYS_FOLDER = "VIDEO_TS", "BDMV", "AACS"
DISC_FOLDERS = (VIDEO_FOLDER, BLURAY_FOLDER, KEYS_FOLDER)
TABLE_NAME = re.compile(r"(VIDEO_TS|VTS_\d\d_0)\.(IFO|BUP)$", re.IGNORECASE)
BLURAY_PARTS = ("PLAYLIST", "STREAM", "CLIPINF")
DESCRIPTORS_AT = 16 * SECTOR_BYTES
LARGEST_TABLE_BYTES = 8 << 20


@dataclass(slots=True, kw_only=True)
class DiscFiles:
    """The files of a disc by upper-case name below its main folder, each as runs of bytes; counts what is read."""

    form: SourceForm
    path: str
    label: str
    size_bytes: int
    runs: dict[str, tuple[Extent, ...]]
    bluray: bool = False
    keys: bool = False
    bytes_read: int = field(default=0)

    def has(self, name: str) -> bool:
        return name in self.runs

    def length(self, name: str) -> int:
        return sum(extent.length_bytes for extent in self.runs[name])

    def read(self, name: str, offset_bytes: int = 0, length_bytes: int = LARGEST_TABLE_BYTES) -> bytes:
        """Read part of a file; short where the file or the image ends early. Raises ``SourceMissing``."""
        return b"".join(map(self.read_extent, pieces(self.runs[name], offset_bytes, offset_bytes + length_bytes)))

    def read_extent(self, extent: Extent) -> bytes:
        try:
            with open_inside(extent.path) as handle:
                handle.seek(extent.offset_bytes)
                data = handle.read(extent.length_bytes)
        except FileNotFoundError as error:
            raise SourceMissing("{file} is not there any more.", file=Path(extent.path).name) from error
        except OSError:
            return b""
        self.bytes_read += len(data)
        return data

    def source(self, kind: SourceKind, titles: Sequence[Title], problems: Sequence[Problem]) -> Source:
        """What was found on these files."""
        return Source(
            kind=kind,
            form=self.form,
            label=self.label,
            path=self.path,
            size_bytes=self.size_bytes,
            titles=tuple(titles),
            problems=tuple(problems),
            bytes_read=self.bytes_read,
        )


def pieces(parts: Sequence[Extent], start: int, end: int) -> tuple[Extent, ...]:
    """Where bytes ``start`` to ``end`` of joined parts lie; short where the parts end early."""
    found = []
    begin = 0
    for part in parts:
        low, high = max(start, begin), min(end, begin + part.length_bytes)
        if low < high:
            found.append(Extent(path=part.path, offset_bytes=part.offset_bytes + low - begin, length_bytes=high - low))
        begin += part.length_bytes
    return tuple(found)


def open_folder(folder: Path) -> DiscFiles:
    """Take a DVD folder: the one that holds ``VIDEO_TS``, that folder itself, or one with its files lying loose."""
    inner = video_folder(folder)
    if inner is None:
        raise NotASource("{folder} is not a disc folder.", folder=folder.name)
    runs = {entry.name.upper(): _whole(entry) for entry in sorted(inner.iterdir()) if entry.is_file()}
    if not runs:
        raise EmptyDisc("{folder} has a VIDEO_TS folder with nothing in it.", folder=folder.name)
    named = folder.parent if folder.name.upper() == VIDEO_FOLDER else folder
    return _folder_files(folder, named.name, runs)


def open_bluray_folder(folder: Path) -> DiscFiles:
    """Take a Blu-ray folder: the one that holds ``BDMV``, or that folder itself, or one with its parts."""
    inner = bluray_folder(folder)
    if inner is None:
        raise NotASource("{folder} is not a disc folder.", folder=folder.name)
    runs = {
        f"{part.name}/{entry.name}".upper(): _whole(entry)
        for part in sorted(inner.iterdir())
        if part.is_dir() and part.name.upper() in BLURAY_PARTS
        for entry in sorted(part.iterdir())
        if entry.is_file()
    }
    if not runs:
        raise EmptyDisc("{folder} has a BDMV folder with nothing in it.", folder=folder.name)
    named = folder.parent if folder.name.upper() == BLURAY_FOLDER else folder
    files = _folder_files(folder, named.name, runs)
    files.bluray, files.keys = True, any(e.name.upper() == KEYS_FOLDER for e in inner.parent.iterdir())
    return files


def _folder_files(folder: Path, label: str, runs: dict[str, tuple[Extent, ...]]) -> DiscFiles:
    size = sum(extent.length_bytes for parts in runs.values() for extent in parts)
    return DiscFiles(form=SourceForm.FOLDER, path=str(folder), label=shown(label), size_bytes=size, runs=runs)


def _whole(path: Path) -> tuple[Extent, ...]:
    return (Extent(path=str(real_path(path)), offset_bytes=0, length_bytes=check_inside(path)),)


def video_folder(folder: Path) -> Path | None:
    """The folder in which the DVD files lie, or ``None`` where there are none."""
    if folder.name.upper() == VIDEO_FOLDER:
        return folder
    entries = list(folder.iterdir())
    for entry in entries:
        if entry.is_dir() and entry.name.upper() == VIDEO_FOLDER:
            return entry
    return folder if any(TABLE_NAME.match(entry.name) for entry in entries) else None


def bluray_folder(folder: Path) -> Path | None:
    """The folder that holds a Blu-ray's playlists and streams, or ``None`` where there is none."""
    if folder.name.upper() == BLURAY_FOLDER:
        return folder
    inside = [entry for entry in folder.iterdir() if entry.is_dir()]
    for entry in inside:
        if entry.name.upper() == BLURAY_FOLDER:
            return entry
    return folder if any(entry.name.upper() in ("PLAYLIST", "STREAM") for entry in inside) else None


def is_disc_folder(folder: Path) -> bool:
    """Whether a folder holds the structure of a disc. A folder that can't be listed does not."""
    try:
        return video_folder(folder) is not None or bluray_folder(folder) is not None
    except OSError:
        return False


def is_image(path: Path) -> bool:
    """Whether a file starts like an optical disc: an ISO 9660 or UDF volume recognition sequence at sector 16."""
    with open_inside(path) as handle:
        handle.seek(DESCRIPTORS_AT)
        return handle.read(6)[1:6] in (b"CD001", b"BEA01")


def open_image(path: Path) -> DiscFiles:
    """Take a disc image or a drive: UDF, ISO 9660 or both (ECMA-167, ECMA-119), reading its directories only.

    Raises ``CutOffImage`` where the image ends before its directories do, ``NotASource`` where it holds no disc.
    """
    with open_inside(path) as handle:
        size = handle.seek(0, io.SEEK_END)
    found = _udf_files(path) or _iso_files(path)
    label, folders, runs = found
    if VIDEO_FOLDER not in folders and BLURAY_FOLDER not in folders:
        raise NotASource("The image {path} holds no video disc.", path=path.name)
    main = VIDEO_FOLDER if VIDEO_FOLDER in folders else BLURAY_FOLDER
    inner = {name.partition("/")[2]: _there(parts, size) for name, parts in runs.items() if name.startswith(f"{main}/")}
    if not inner:
        raise EmptyDisc("The disc in {path} has nothing in its {main} folder.", path=path.name, main=main)
    return DiscFiles(
        form=SourceForm.IMAGE,
        path=str(path),
        label=shown(label or path.stem),
        size_bytes=size,
        runs=inner,
        bluray=main == BLURAY_FOLDER,
        keys=KEYS_FOLDER in folders,
    )


def _there(parts: tuple[Extent, ...], size: int) -> tuple[Extent, ...]:
    """The parts as far as the image reaches."""
    return tuple(
        replace(part, length_bytes=min(part.length_bytes, size - part.offset_bytes))
        for part in parts
        if part.offset_bytes < size
    )


_Listing = tuple[str, set[str], dict[str, tuple[Extent, ...]]]


def _udf_files(path: Path) -> _Listing | None:
    """(label, folders in the root, files by path) from the UDF file system; ``None`` where it has none that reads."""
    where = str(real_path(path))
    with open_inside(path) as handle, contextlib.suppress(NotUdf):
        image = UdfImage(handle)
        runs = {
            name: tuple(Extent(path=where, offset_bytes=offset, length_bytes=length) for offset, length in file.runs)
            for name, file in image.files(DISC_FOLDERS)
        }
        folders = {name.upper() for name in image.folders()}
        if runs:
            return image.label, folders, runs
    return None


def _iso_files(path: Path) -> _Listing:
    """The same from the ISO 9660 file system."""
    image, handle = _opened(path)
    where = str(real_path(path))
    folders: set[str] = set()
    runs: dict[str, tuple[Extent, ...]] = {}
    try:
        for name, entry in _children(image, "/"):
            if not entry.is_dir():
                continue
            folders.add(name.upper())
            if name.upper() in DISC_FOLDERS:
                runs |= _iso_folder(image, f"/{name}", where)
                for inner, below in _children(image, f"/{name}"):
                    if below.is_dir():
                        runs |= _iso_folder(image, f"/{name}/{inner}", where)
        raw = getattr(image.pvd, "volume_identifier", b"") if image.pvd else b""
        return str(raw.decode("ascii", errors="replace")).strip(), folders, runs
    except (pycdlib.pycdlibexception.PyCdlibException, ValueError, IndexError) as error:
        raise CutOffImage("The directories in {path} can't be read.", path=path.name) from error
    finally:
        image.close()
        handle.close()


def _iso_folder(image: pycdlib.PyCdlib, folder: str, where: str) -> dict[str, tuple[Extent, ...]]:
    return {
        f"{folder}/{name}".lstrip("/").upper(): (
            Extent(
                path=where,
                offset_bytes=entry.inode.extent_location() * SECTOR_BYTES,
                length_bytes=entry.get_data_length(),
            ),
        )
        for name, entry in _children(image, folder)
        if entry.is_file() and entry.inode is not None
    }


def _opened(path: Path) -> tuple[pycdlib.PyCdlib, BinaryIO]:
    """The image's ISO 9660 part: what it says of UDF was tried before, and a cut-off image has lost its end."""
    handle = cast(BinaryIO, _without_udf(path, "rb"))
    image = pycdlib.PyCdlib()
    try:
        image.open_fp(handle)
    except Exception as error:  # pycdlib lets struct.error and others through on damaged directories
        handle.close()
        raise CutOffImage("The directories in {path} can't be read.", path=path.name) from error
    return image, handle


class _without_udf(io.FileIO):
    """An image as if it had no UDF: the volume recognition descriptors (ECMA-167, part 2) read as zeros."""

    HIDDEN = (b"BEA01", b"NSR02", b"NSR03", b"TEA01")

    def read(self, size: int | None = -1) -> bytes:
        at = self.tell()
        data = super().read(-1 if size is None else size) or b""
        if DESCRIPTORS_AT <= at < DESCRIPTORS_AT + 64 * SECTOR_BYTES and data[1:6] in self.HIDDEN:
            return bytes(len(data))
        return data


def _children(image: pycdlib.PyCdlib, folder: str) -> list[tuple[str, pycdlib.dr.DirectoryRecord]]:
    """The entries of a folder by the names without version numbers."""
    found = []
    for entry in image.list_children(iso_path=folder):
        if entry is not None and not entry.is_dot() and not entry.is_dotdot():
            text = entry.file_identifier().decode("utf-8", errors="replace")
            found.append((text.split(";")[0].rstrip(".").replace("\x00", ""), entry))
    return found
