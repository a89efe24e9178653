"""A loose media file: one title."""

from __future__ import annotations

from pathlib import Path

from ..engine import MAX_PIXELS, probe
from ..errors import NotASource
from ..media import FileData, Source, SourceForm, SourceKind, Title
from .progress import ScanProgress
from .roles import with_roles


def read_file(path: Path, progress: ScanProgress) -> Source:
    """Read a media file. Raises ``NotASource`` or ``ForbiddenFormat``."""
    progress.at(1, 1)
    found = probe(str(path))
    if found.video and found.video.width * found.video.height > MAX_PIXELS:
        raise NotASource(
            f"{path.name} claims a picture of {found.video.width}x{found.video.height}; that is too large."
        )
    title = Title(
        number=1,
        duration_s=found.duration_s,
        size_bytes=found.size_bytes,
        data=FileData(path=str(path)),
        container=found.container,
        video=found.video,
        audio=found.audio,
        subtitles=found.subtitles,
        chapters=found.chapters,
    )
    return Source(
        kind=SourceKind.FILES,
        form=SourceForm.FILE,
        label=found.title or path.stem,
        path=str(path),
        size_bytes=found.size_bytes,
        titles=with_roles([title]),
    )
