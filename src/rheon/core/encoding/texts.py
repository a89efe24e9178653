"""Text subtitles of a kept range: the lines of its stretches, in the time of the file that is made."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from pathlib import Path

from ..commands.looking import text_track
from ..commands.names import subtitle_file
from ..engine import Command, run
from ..errors import NotASource
from ..media import FileData, KeptRange, OutputSettings, SubtitleForm, SubtitleStream, Title
from ..media.kept import stretches_of
from ..subtitles import LARGEST_BYTES, SubtitleText, TimedLine, read_subtitles, to_subrip
from ..system import read_inside

LEAST_S = 0.04
"""What is left of a line that a cut goes through has to be seen."""


def with_cut_texts(title: Title, settings: OutputSettings, folder: Path) -> Title:
    """Write the kept lines of each text track that goes along as such; the title then has them beside it.

    Raises ``OSError``, ``NotASource`` or ``EngineError``.
    """
    wanted = {
        one.track
        for one in settings.subtitles
        if one.is_text and (title.joined or (settings.kept and one.form is not SubtitleForm.DRAWN))
    }
    tracks = list(title.subtitles)
    for track in sorted(wanted):
        lines = tuple(_kept_lines(stretches_of(title, settings.kept), track))
        path = folder / subtitle_file(track)
        path.write_text(to_subrip(SubtitleText(encoding="utf-8", lines=lines)), encoding="utf-8")
        tracks[track] = replace(tracks[track], path=str(path))
    return replace(title, subtitles=tuple(tracks))


def _kept_lines(stretches: Sequence[tuple[Title, KeptRange]], track: int) -> Iterator[TimedLine]:
    """The lines of a track within stretches, one stretch after the other."""
    read: Title | None = None
    lines: Sequence[TimedLine] = ()
    at_s = 0.0
    for title, kept in stretches:
        if title is not read:
            stream = title.subtitles[track]
            read, lines = title, () if stream.absent else _lines(title, stream)
        # where the title lies in its text
        begins_s = title.data.from_s if isinstance(title.data, FileData) else 0.0
        yield from cut_lines(lines, begins_s + kept.from_s, begins_s + kept.until_s, at_s)
        at_s += kept.length_s


def cut_lines(lines: Sequence[TimedLine], from_s: float, until_s: float, at_s: float) -> Iterator[TimedLine]:
    """The lines between two moments, of which the first comes at ``at_s``."""
    for line in lines:
        start_s, end_s = max(line.start_s, from_s), min(line.end_s, until_s)
        if end_s - start_s >= LEAST_S:
            yield TimedLine(start_s=at_s + start_s - from_s, end_s=at_s + end_s - from_s, text=line.text)


def _lines(title: Title, track: SubtitleStream) -> Sequence[TimedLine]:
    if track.path is not None:
        return read_subtitles(read_inside(track.path, LARGEST_BYTES)).lines
    said = run(Command(argv=text_track(title, track.index), timeout_s=None, gentle=True)).stdout
    try:
        return read_subtitles(said).lines
    except NotASource:
        # a track without a single line
        return ()
