from __future__ import annotations

from pathlib import Path

import pytest
from tests.instruments.engine import output_of

from rheon.core.commands import pipe_input
from rheon.core.media import CellData, Extent, Source, StreamKind
from rheon.core.media.kept import cut_times
from rheon.core.sources.dvd.program_stream import sample
from rheon.core.sources.material.feed import declare, feed_extents, feed_title
from rheon.core.sources.material.seek import narrowed

SECTOR = 2048


def streams(data: bytes) -> list[str]:
    """Codec names that the engine finds in the very first megabyte."""
    argv = ["ffprobe", "-v", "error", "-probesize", "1000000", *pipe_input(StreamKind.PROGRAM)]
    said = output_of([*argv, "-show_entries", "stream=codec_name", "-of", "csv=p=0"], feed=lambda: iter([data]))
    return said.decode().split()


def test_a_title_is_fed_byte_for_byte(film_disc: Source) -> None:
    data = film_disc.titles[3].data
    assert isinstance(data, CellData)
    fed = b"".join(feed_title(data))
    assert len(fed) == film_disc.titles[3].size_bytes
    expected = b""
    for extent in data.extents:
        with Path(extent.path).open("rb") as handle:
            handle.seek(extent.offset_bytes)
            expected += handle.read(extent.length_bytes)
    assert fed == expected


def test_subpictures_are_known_to_the_engine_before_their_first_line(film_disc: Source) -> None:
    data = film_disc.titles[0].data
    assert isinstance(data, CellData)
    first = data.extents[0]
    start = Extent(path=first.path, offset_bytes=first.offset_bytes, length_bytes=100 * SECTOR)
    plain = b"".join(feed_extents([start]))
    declared = declare(plain, (0x20, 0x21)) + plain
    assert "dvd_subtitle" not in streams(plain)
    assert streams(declared).count("dvd_subtitle") == 2


def test_declared_sectors_are_whole_packs(film_disc: Source) -> None:
    data = film_disc.titles[0].data
    assert isinstance(data, CellData)
    front = next(iter(feed_title(data, (0x20,))))
    assert len(front) == SECTOR
    facts = sample(front)
    assert (facts.packs, facts.scrambled) == (1, False)


def heard_and_seen(data: CellData, begin_s: float, length_s: float) -> list[str]:
    """Checksums of all pictures and of each frame of sound, as it is stored, between two moments by their own times."""
    end_s = begin_s + length_s
    argv = ["ffmpeg", "-v", "fatal", "-copyts", *pipe_input(StreamKind.PROGRAM), "-c:a", "copy"]
    argv += [
        "-vf",
        f"trim=start={begin_s}:end={end_s},settb=1/90000",
        "-map",
        "0:v:0",
        "-map",
        "0:i:0x80",
        "-f",
        "framemd5",
        "-",
    ]
    lines = output_of(argv, feed=lambda: feed_title(data, leads=True)).decode().splitlines()
    rows = [line.split(",") for line in lines if not line.startswith("#")]
    return sorted(str(row) for row in rows if row[0] == "0" or begin_s <= int(row[2]) / 90_000 < end_s)


@pytest.mark.parametrize(("from_s", "length_s"), [(0.0, 1.5), (41.3, 2.0), (70.9, 4.0), (100.0, 1.0), (176.0, 4.0)])
def test_of_a_stretch_only_what_is_near_is_read_and_it_is_the_same(
    film_disc: Source, from_s: float, length_s: float
) -> None:
    title = cut_times(film_disc.titles[0], from_s, min(from_s + length_s, film_disc.titles[0].duration_s), 301)
    assert isinstance(title.data, CellData) and title.data.start_pts is not None
    near = narrowed(title.data, title.duration_s)
    read, all_of_it = (sum(cell.size_bytes for cell in data.cells) for data in (near, title.data))
    rate = film_disc.titles[0].size_bytes / film_disc.titles[0].duration_s
    assert read < min(all_of_it, (7 + title.duration_s) * rate)
    begin_s = title.data.start_pts / 90_000
    known = heard_and_seen(near, begin_s, title.duration_s)
    assert len(known) > title.duration_s * 30
    assert known == heard_and_seen(title.data, begin_s, title.duration_s)


def test_nothing_is_declared_where_no_time_stamp_is_seen() -> None:
    assert declare(bytes(4096), (0x20,)) == b""


def test_a_file_that_ends_early_is_an_error_not_a_short_title(tmp_path: Path) -> None:
    path = tmp_path / "a.vob"
    path.write_bytes(bytes(10))
    with pytest.raises(OSError, match="ends early"):
        list(feed_extents([Extent(path=str(path), offset_bytes=0, length_bytes=20)]))
