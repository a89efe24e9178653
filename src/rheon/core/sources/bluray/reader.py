"""Blu-ray folders and images: from playlists, clip tables and a few sampled packets to titles."""

from __future__ import annotations

import contextlib
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from pathlib import PurePosixPath

from ...errors import EmptyDisc, TablesBroken
from ...media import CellData, Chapter, Extent, Source, SourceKind, StreamKind, Title
from ..faults import Problems
from ..images.disc_files import DiscFiles, pieces
from ..progress import ScanProgress
from ..roles.roles import with_roles
from .cells import SNAP_TICKS, ClipPlace, located
from .clpi import ClipInfo, read_clip_info
from .holes import Hole, find_holes, gaps_in
from .mpls import TICKS, PlayItem, Playlist, read_playlist
from .tracks import audio_streams, subtitle_streams, video_stream
from .transport_stream import ALIGNED_UNIT_BYTES, M2TS_BYTES, ClipFacts, sample_clip

SAMPLE_PLACES, SAMPLE_UNITS = 5, 8
SECOND_LOOK_PLACES, SECOND_LOOK_UNITS = 3, 200
END_BYTES = 400 * ALIGNED_UNIT_BYTES // 32
LOOP_REPEATS = 4
MOST_TITLES = 999


@dataclass(slots=True)
class _Scan:
    """What one scan gathers: clips by stem, and problems."""

    files: DiscFiles
    clips: dict[str, ClipPlace | None] = field(default_factory=dict)
    holes: dict[str, tuple[Hole, ...]] = field(default_factory=dict)
    problems: Problems = field(default_factory=Problems)


@dataclass(frozen=True, slots=True, kw_only=True)
class _Listed:
    """A playlist to become a title. ``name`` is its file's, and the title's key."""

    name: str
    playlist: Playlist


def read_bluray(files: DiscFiles, progress: ScanProgress, only: str | None = None) -> Source:
    """Read a Blu-ray disc, or ``only`` one playlist of it.

    Raises ``EmptyDisc``, ``TablesBroken`` or ``Stopped``; what is wrong with single titles is in ``problems``.
    """
    scan = _Scan(files=files)
    listed = [entry for entry in _playlists(scan) if only in (None, entry.name)] or list(_clips_alone(scan))
    if not listed:
        if any(name.startswith("PLAYLIST/") for name in files.runs):
            raise TablesBroken("On {label} no playlist can be read.", label=files.label)
        raise EmptyDisc("{label} holds neither playlists nor streams.", label=files.label)
    titles = []
    for number, entry in enumerate(listed, start=1):
        progress.at(number, len(listed))
        if (title := _title(scan, number, entry)) is not None:
            titles.append(title)
    if not titles:
        raise EmptyDisc("On {label} none of the clips that its playlists name can be found.", label=files.label)
    return files.source(SourceKind.BLURAY, with_roles(titles), scan.problems.found)


def _playlists(scan: _Scan) -> Iterator[_Listed]:
    names = sorted(n for n in scan.files.runs if n.startswith("PLAYLIST/") and n.endswith((".MPLS", ".MPL")))
    for name in names[:MOST_TITLES]:
        try:
            playlist = read_playlist(scan.files.read(name))
        except TablesBroken:
            stem = PurePosixPath(name).name
            scan.problems.add(TablesBroken.code, None, "playlist_broken", name=stem)
            continue
        if playlist.items:
            yield _Listed(name=PurePosixPath(name).stem, playlist=playlist)


def _clips_alone(scan: _Scan) -> Iterator[_Listed]:
    """Where no playlist was kept, each clip is a title."""
    for name in sorted(n for n in scan.files.runs if n.startswith("STREAM/") and n.endswith((".M2TS", ".MTS"))):
        stem = PurePosixPath(name).stem
        place = _clip(scan, stem)
        if place is None:
            continue
        start, end = _clip_times(scan, stem, place)
        streams = place.info.streams if place.info else ()
        item = PlayItem(
            clips=(stem,),
            in_time=start,
            out_time=end,
            still_s=0,
            video=tuple(s for s in streams if 0x1011 <= s.packet_id < 0x1100),
            audio=tuple(s for s in streams if 0x1100 <= s.packet_id < 0x1200),
            graphics=tuple(s for s in streams if 0x1200 <= s.packet_id < 0x1300),
        )
        yield _Listed(name=stem, playlist=Playlist(items=(item,), marks=((0, start),)))


def _clip(scan: _Scan, stem: str) -> ClipPlace | None:
    """Where a clip lies and what its table says; ``None`` where its data were not kept."""
    if stem not in scan.clips:
        files = scan.files
        name = next((n for n in (f"STREAM/{stem}.M2TS", f"STREAM/{stem}.MTS") if files.has(n)), None)
        info: ClipInfo | None = None
        for table in (f"CLIPINF/{stem}.CLPI", f"CLIPINF/{stem}.CPI"):
            if files.has(table):
                with contextlib.suppress(TablesBroken):
                    info = read_clip_info(files.read(table))
        scan.clips[stem] = ClipPlace(runs=files.runs[name], info=info) if name else None
    return scan.clips[stem]


def _clip_times(scan: _Scan, stem: str, place: ClipPlace) -> tuple[int, int]:
    """When a clip starts and ends (45 kHz): by its table, else by the first and last time stamps of its pictures."""
    if place.info and place.info.end > place.info.start:
        return place.info.start, place.info.end
    size = place.size_bytes
    start = sum((_sample(scan, place.runs, at, END_BYTES) for at in (0,)), ClipFacts())
    last_at = max(0, (size - END_BYTES) // M2TS_BYTES * M2TS_BYTES)
    end = _sample(scan, place.runs, last_at, END_BYTES)
    first = (start.first_pts or 0) // 2
    return first, max(first, (end.last_pts or 0) // 2)


def _title(scan: _Scan, number: int, entry: _Listed) -> Title | None:
    items = _without_loops(entry.playlist.items)
    places = {stem: place for item in items for stem in item.clips if (place := _clip(scan, stem)) is not None}
    if not places:
        scan.problems.add("not_kept", number, "clips_not_copied")
        return None
    cells = located(items, places, entry.playlist.marks)
    angles = max(len(item.clips) for item in items)
    others = tuple(located(items, places, entry.playlist.marks, angle) for angle in range(1, angles))
    data = CellData(
        cells=tuple(cell for cell in cells if cell.extents),
        stream=StreamKind.TRANSPORT,
        other_angles=others,
    )
    main = max(items, key=lambda item: item.duration_s)
    duration_s = round(sum(cell.duration_s for cell in data.cells), 3)
    title = Title(
        number=number,
        key=entry.name,
        duration_s=duration_s,
        size_bytes=sum(extent.length_bytes for extent in data.extents),
        data=data,
        container="mpeg_ts",
        video=video_stream(main.video),
        audio=audio_streams(main.audio),
        subtitles=subtitle_streams(main.graphics),
        chapters=_chapters(entry.playlist, items, data),
        angles=angles,
        gaps=gaps_in(data.cells, _holes(scan, places)),
    )
    lost = sum(cell.duration_s for cell in cells if not cell.extents)
    return _with_faults(scan, title, main, lost)


def _holes(scan: _Scan, places: dict[str, ClipPlace]) -> list[Hole]:
    """The holes of all clips of a title; each clip is looked at once."""
    for stem, place in places.items():
        if stem not in scan.holes:
            scan.holes[stem] = find_holes(scan.files, place)
    return [hole for stem in places for hole in scan.holes[stem]]


def _without_loops(items: Sequence[PlayItem]) -> tuple[PlayItem, ...]:
    """Menus list one clip again and again: once is enough, and it stands until somebody goes on."""
    first = items[0]
    if len(items) >= LOOP_REPEATS and all(item.clips == first.clips for item in items):
        return (replace(first, still_s=255),)
    return tuple(items)


def _chapters(playlist: Playlist, items: Sequence[PlayItem], data: CellData) -> tuple[Chapter, ...]:
    """Marks as moments of the title; each lies at the start of the cell that was cut there."""
    if len(items) != len(playlist.items):
        return (Chapter(number=1, start_s=0.0),)
    starts: list[float] = []
    before = 0.0
    begins = []
    for item in items:
        begins.append(before)
        before += item.duration_s
    cell_starts = [cell.start_s for cell in data.cells]
    for at, time in playlist.marks:
        wanted = begins[at] + (time - items[at].in_time) / TICKS
        near = min(cell_starts, key=lambda start: abs(start - wanted), default=wanted)
        near = near if abs(near - wanted) <= SNAP_TICKS / TICKS else wanted
        if not starts or near > starts[-1] + 0.5:
            starts.append(near)
    return tuple(Chapter(number=n, start_s=round(start, 3)) for n, start in enumerate(starts or [0.0], start=1))


def _with_faults(scan: _Scan, title: Title, main: PlayItem, lost_s: float) -> Title:
    data = title.data
    assert isinstance(data, CellData)
    facts = _facts(scan, data.extents, SAMPLE_PLACES, SAMPLE_UNITS)
    judged = scan.problems.judge(title, scrambled=facts.is_scrambled, empty=facts.is_empty)
    if judged.fault is not None:
        return judged
    if lost_s >= 0.5:
        scan.problems.add("cut_off", title.number, "clips_missing", lost_s=round(lost_s, 3))
    return _present(scan, title, data, facts)


def _present(scan: _Scan, title: Title, data: CellData, facts: ClipFacts) -> Title:
    """The title without audio tracks that its data do not hold; a second look is taken before one counts as absent."""
    absent = [track for track in title.audio if track.stream_id not in facts.packet_ids]
    if absent:
        facts += _facts(scan, data.extents, SECOND_LOOK_PLACES, SECOND_LOOK_UNITS)
        absent = [track for track in absent if track.stream_id not in facts.packet_ids]
    for track in absent:
        scan.problems.absent(title.number, track)
    kept = [track for track in title.audio if track not in absent]
    return _with_rates(
        replace(title, audio=tuple(replace(track, index=index) for index, track in enumerate(kept))), facts
    )


def _with_rates(title: Title, facts: ClipFacts) -> Title:
    """The title with the rate of each stream by its share of the sampled packets; a core has its track's packets."""
    if not facts.read_bytes or not title.duration_s:
        return title
    whole_bps = title.size_bytes * 8 / title.duration_s

    def rate(stream_id: int | None) -> int | None:
        return round(whole_bps * facts.payload_bytes.get(stream_id or 0, 0) / facts.read_bytes) or None

    cores = {track.stream_id for track in title.audio if track.is_core}
    return replace(
        title,
        video=title.video and replace(title.video, bitrate_bps=rate(title.video.stream_id)),
        audio=tuple(t if t.stream_id in cores else replace(t, bitrate_bps=rate(t.stream_id)) for t in title.audio),
    )


def _facts(scan: _Scan, extents: Sequence[Extent], places: int, units: int) -> ClipFacts:
    total = sum(extent.length_bytes for extent in extents) // ALIGNED_UNIT_BYTES
    wanted = {total * place // places * ALIGNED_UNIT_BYTES for place in range(places)}
    return sum((_sample(scan, extents, at, units * ALIGNED_UNIT_BYTES) for at in sorted(wanted)), ClipFacts())


def _sample(scan: _Scan, extents: Sequence[Extent], at: int, length: int) -> ClipFacts:
    return sample_clip(b"".join(map(scan.files.read_extent, pieces(extents, at, at + length))))
