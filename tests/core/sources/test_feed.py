from __future__ import annotations

from pathlib import Path

import pytest

from rheon.core.commands import pipe_input
from rheon.core.engine import Command, run
from rheon.core.media import CellData, Extent, Source, StreamKind
from rheon.core.sources.dvd.program_stream import sample
from rheon.core.sources.material.feed import declare, feed_extents, feed_title

SECTOR = 2048


def streams(data: bytes) -> list[str]:
    """Codec names that the engine finds in the very first megabyte."""
    argv = ["ffprobe", "-v", "error", "-probesize", "1000000", *pipe_input(StreamKind.PROGRAM)]
    said = run(Command(argv=[*argv, "-show_entries", "stream=codec_name", "-of", "csv=p=0"], feed=lambda: iter([data])))
    return said.stdout.decode().split()


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


def test_nothing_is_declared_where_no_time_stamp_is_seen() -> None:
    assert declare(bytes(4096), (0x20,)) == b""


def test_a_file_that_ends_early_is_an_error_not_a_short_title(tmp_path: Path) -> None:
    path = tmp_path / "a.vob"
    path.write_bytes(bytes(10))
    with pytest.raises(OSError, match="ends early"):
        list(feed_extents([Extent(path=str(path), offset_bytes=0, length_bytes=20)]))
