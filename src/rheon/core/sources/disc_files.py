"""The files of a disc, wherever they lie: in a folder, or inside an image that is never unpacked."""

from __future__ import annotations

import io
import re
from dataclasses import dataclass, field
from pathlib import Path
from typing import BinaryIO, cast

import pycdlib

from ..errors import CutOffImage, EmptyDisc, NotASource, SourceMissing
from ..media import SECTOR_BYTES, Extent, SourceForm

VIDEO_FOLDER = "VIDEO_TS"
TABLE_NAME = re.compile(r"(VIDEO_TS|VTS_\d\d_0)\.(IFO|BUP)$", re.IGNORECASE)
DESCRIPTORS_AT = 16 * SECTOR_BYTES
LARGEST_TABLE_BYTES = 8 << 20


@dataclass(slots=True, kw_only=True)
class DiscFiles:
    """The ``VIDEO_TS`` files of a disc by upper-case name, each as a run of bytes; counts what is read."""

    form: SourceForm
    path: str
    label: str
    size_bytes: int
    extents: dict[str, Extent]
    bytes_read: int = field(default=0)

    def has(self, name: str) -> bool:
        return name in self.extents

    def read(self, name: str, offset_bytes: int = 0, length_bytes: int = LARGEST_TABLE_BYTES) -> bytes:
        """Read part of a file; short where the file or the image ends early. Raises ``SourceMissing``."""
        extent = self.extents[name]
        length = min(length_bytes, max(0, extent.length_bytes - offset_bytes))
        return self.read_extent(
            Extent(path=extent.path, offset_bytes=extent.offset_bytes + offset_bytes, length_bytes=length)
        )

    def read_extent(self, extent: Extent) -> bytes:
        try:
            with Path(extent.path).open("rb") as handle:
                handle.seek(extent.offset_bytes)
                data = handle.read(extent.length_bytes)
        except FileNotFoundError as error:
            raise SourceMissing(f"{Path(extent.path).name} is not there any more.") from error
        except OSError:
            return b""
        self.bytes_read += len(data)
        return data


def open_folder(folder: Path) -> DiscFiles:
    """Take a disc folder: the one that holds ``VIDEO_TS``, that folder itself, or one with its files lying loose."""
    inner = video_folder(folder)
    if inner is None:
        raise NotASource(f"{folder.name} is not a disc folder.")
    extents = {
        entry.name.upper(): Extent(path=str(entry.resolve()), offset_bytes=0, length_bytes=entry.stat().st_size)
        for entry in sorted(inner.iterdir())
        if entry.is_file()
    }
    if not extents:
        raise EmptyDisc(f"{folder.name} has a VIDEO_TS folder with nothing in it.")
    named = folder.parent if folder.name.upper() == VIDEO_FOLDER else folder
    return DiscFiles(
        form=SourceForm.FOLDER,
        path=str(folder),
        label=named.name,
        size_bytes=sum(extent.length_bytes for extent in extents.values()),
        extents=extents,
    )


def video_folder(folder: Path) -> Path | None:
    """The folder in which the DVD files lie, or ``None`` where there are none."""
    if folder.name.upper() == VIDEO_FOLDER:
        return folder
    entries = list(folder.iterdir())
    for entry in entries:
        if entry.is_dir() and entry.name.upper() == VIDEO_FOLDER:
            return entry
    return folder if any(TABLE_NAME.match(entry.name) for entry in entries) else None


def is_image(path: Path) -> bool:
    """Whether a file starts like an optical disc: an ISO 9660 or UDF volume recognition sequence at sector 16."""
    with path.open("rb") as handle:
        handle.seek(DESCRIPTORS_AT)
        return handle.read(6)[1:6] in (b"CD001", b"BEA01")


def open_image(path: Path) -> DiscFiles:
    """Take a disc image: ISO 9660, UDF or both (ECMA-119, ECMA-167), reading its directories only.

    Raises ``CutOffImage`` where the image ends before its directories do, ``NotASource`` where it holds no disc.
    """
    size = path.stat().st_size
    image, handle = _opened(path)
    try:
        extents, folders = _image_files(image, path)
        label = _label(image) or path.stem
    finally:
        image.close()
        handle.close()
    if "BDMV" in folders:
        raise NotASource(
            f"{path.name} is a Blu-ray image.",
            advice="This version reads DVD-Video discs and media files only.",
        )
    if VIDEO_FOLDER not in folders:
        raise NotASource(f"The image {path.name} holds no video disc.")
    if not extents:
        raise EmptyDisc(f"The disc in {path.name} has nothing in its VIDEO_TS folder.")
    return DiscFiles(form=SourceForm.IMAGE, path=str(path), label=label, size_bytes=size, extents=extents)


def _opened(path: Path) -> tuple[pycdlib.PyCdlib, BinaryIO]:
    """The image by all it says, else by its ISO 9660 part alone: a cut-off image has lost the UDF anchor at its end."""
    for view in (open, _without_udf):
        handle = cast(BinaryIO, view(path, "rb"))
        image = pycdlib.PyCdlib()
        try:
            image.open_fp(handle)
        except Exception:  # pycdlib lets struct.error and others through on damaged directories
            handle.close()
        else:
            return image, handle
    raise CutOffImage(f"The directories in {path.name} can't be read.")


class _without_udf(io.FileIO):
    """An image as if it had no UDF: the volume recognition descriptors (ECMA-167, part 2) read as zeros."""

    HIDDEN = (b"BEA01", b"NSR02", b"NSR03", b"TEA01")

    def read(self, size: int | None = -1) -> bytes:
        at = self.tell()
        data = super().read(-1 if size is None else size) or b""
        if DESCRIPTORS_AT <= at < DESCRIPTORS_AT + 64 * SECTOR_BYTES and data[1:6] in self.HIDDEN:
            return bytes(len(data))
        return data


def _image_files(image: pycdlib.PyCdlib, path: Path) -> tuple[dict[str, Extent], set[str]]:
    """The files of the image's ``VIDEO_TS`` folder, and the names of all folders at its root."""
    udf = bool(image.has_udf())
    key = "udf_path" if udf else "iso_path"
    folders: set[str] = set()
    extents: dict[str, Extent] = {}
    for entry in _children(image, key, "/"):
        if not entry.is_dir():
            continue
        name = _entry_name(entry)
        folders.add(name.upper())
        if name.upper() == VIDEO_FOLDER:
            for file in _children(image, key, f"/{name}"):
                if file.is_file() and file.inode is not None:
                    extents[_entry_name(file).upper()] = Extent(
                        path=str(path.resolve()),
                        offset_bytes=file.inode.extent_location() * SECTOR_BYTES,
                        length_bytes=file.get_data_length(),
                    )
    return extents, folders


def _children(image: pycdlib.PyCdlib, key: str, folder: str) -> list[pycdlib.dr.DirectoryRecord]:
    return [
        entry
        for entry in image.list_children(**{key: folder})
        if entry is not None and not entry.is_dot() and not entry.is_dotdot()
    ]


def _entry_name(entry: pycdlib.dr.DirectoryRecord) -> str:
    raw = entry.file_identifier()
    text = raw.decode("utf-8", errors="replace") if isinstance(raw, bytes) else str(raw)
    return text.split(";")[0].rstrip(".").replace("\x00", "")


def _label(image: pycdlib.PyCdlib) -> str:
    raw = getattr(image.pvd, "volume_identifier", b"") if image.pvd else b""
    return str(raw.decode("ascii", errors="replace")).strip()
