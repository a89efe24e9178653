"""Cases of the tables that authored discs do not show: angles, mapped tracks, several chains."""

from __future__ import annotations

from pathlib import Path

import pytest
from tests.core.sources.table_builder import BuiltCell, BuiltChain, BuiltSet, audio, subpicture

from rheon.core.errors import TablesBroken
from rheon.core.media import Extent, Purpose, Source
from rheon.core.sources import read_source
from rheon.core.sources.dvd.cells import sector_extents
from rheon.core.sources.dvd.ifo import read_manager, read_title_set
from rheon.core.sources.dvd.reader import read_dvd
from rheon.core.sources.images.disc_files import DiscFiles
from rheon.core.sources.progress import ScanProgress
from rheon.core.wording import problem_text

AC3, MPEG, LPCM, DTS = 0, 2, 4, 6


def manager(*titles: tuple[int, int, int]) -> bytes:
    """(title set, title in it, angles) for each title of the disc."""
    head = bytearray(2048)
    head[:12] = b"DVDVIDEO-VMG"
    head[0xC4:0xC8] = (1).to_bytes(4)
    rows = b"".join(bytes([0, angles, 0, 1, 0, 0, vts, ttn]) + bytes(4) for vts, ttn, angles in titles)
    return bytes(head) + len(titles).to_bytes(2) + bytes(6) + rows


def disc(tmp_path: Path, built: BuiltSet, *titles: tuple[int, int, int], sectors: int = 400) -> DiscFiles:
    files = {"VIDEO_TS.IFO": manager(*titles), "VTS_01_0.IFO": built.data(), "VTS_01_1.VOB": bytes(2048 * sectors)}
    for name, data in files.items():
        (tmp_path / name).write_bytes(data)
    runs = {
        name: (Extent(path=str(tmp_path / name), offset_bytes=0, length_bytes=len(data)),)
        for name, data in files.items()
    }
    return DiscFiles(form="folder", path=str(tmp_path), label="BUILT", size_bytes=1, runs=runs)  # type: ignore[arg-type]


def test_only_the_first_angle_of_a_block_counts_for_time_and_bytes(tmp_path: Path) -> None:
    first, middle, last = 0b01_01_0000, 0b10_01_0000, 0b11_01_0000
    cells = [
        BuiltCell("00001040", 0, 9),
        BuiltCell("00002040", 10, 19, first),
        BuiltCell("00002040", 20, 29, middle),
        BuiltCell("00002040", 30, 39, last),
        BuiltCell("00000540", 40, 49),
    ]
    built = BuiltSet(chains=[BuiltChain(cells=cells, programs=[1, 2, 5])], titles=[[(1, 1), (1, 2), (1, 3)]])
    title = read_dvd(disc(tmp_path, built, (1, 1, 3)), ScanProgress()).titles[0]
    assert (title.angles, title.duration_s, title.size_bytes) == (3, 35.0, 30 * 2048)
    assert [chapter.start_s for chapter in title.chapters] == [0.0, 10.0, 30.0]


def test_tracks_keep_their_declared_order_and_the_stream_numbers_of_the_chain(tmp_path: Path) -> None:
    built = BuiltSet(
        chains=[
            BuiltChain(
                cells=[BuiltCell("00001040", 0, 9)],
                audio={0: 0x8200, 1: 0x8000, 3: 0x8100},
                subpictures={0: 0x80000000 | 4 << 24 | 5 << 16, 2: 0x80000000 | 1 << 24 | 2 << 16},
            )
        ],
        titles=[[(1, 1)]],
        audio=[audio(AC3, 6, "en", 1), audio(DTS, 6, "de"), audio(MPEG, 2, "fr"), audio(LPCM, 2, "en", 3)],
        subpictures=[subpicture("en"), subpicture("fr"), subpicture("es")],
    )
    narrow = read_dvd(disc(tmp_path, built, (1, 1, 1)), ScanProgress()).titles[0]
    assert [(t.index, t.codec, t.language, t.purpose, t.stream_id) for t in narrow.audio] == [
        (0, "ac3", "en", Purpose.MAIN, 0x82),
        (1, "dts", "de", Purpose.UNKNOWN, 0x88),
        (2, "pcm_dvd", "en", Purpose.COMMENTARY, 0xA1),
    ]
    assert [(t.language, t.stream_id) for t in narrow.subtitles] == [("en", 0x24), ("es", 0x21)]
    built.video |= 0b00_00_11_00
    wide = read_dvd(disc(tmp_path, built, (1, 1, 1)), ScanProgress()).titles[0]
    assert [(t.language, t.stream_id) for t in wide.subtitles] == [("en", 0x25), ("es", 0x22)]


def test_a_title_over_several_chains_is_one_run_of_time(tmp_path: Path) -> None:
    chains = [
        BuiltChain(cells=[BuiltCell("00001040", 0, 9), BuiltCell("00001040", 10, 19)], programs=[1, 2]),
        BuiltChain(cells=[BuiltCell("00003040", 20, 29)]),
    ]
    built = BuiltSet(chains=chains, titles=[[(1, 1), (1, 2), (2, 1)]])
    title = read_dvd(disc(tmp_path, built, (1, 1, 1)), ScanProgress()).titles[0]
    assert title.duration_s == 50.0
    assert [chapter.start_s for chapter in title.chapters] == [0.0, 10.0, 20.0]


def test_titles_that_share_cells_are_a_play_all_and_its_parts(tmp_path: Path) -> None:
    cells = [BuiltCell("00200040", n * 10, n * 10 + 9) for n in range(3)]
    chains = [BuiltChain(cells=cells), *(BuiltChain(cells=[cell]) for cell in cells)]
    built = BuiltSet(chains=chains, titles=[[(n, 1)] for n in range(1, 5)])
    read = read_dvd(disc(tmp_path, built, *((1, n, 1) for n in range(1, 5))), ScanProgress())
    assert [title.role for title in read.titles] == ["play_all", "episode", "episode", "episode"]
    assert [(share.title, share.from_s) for share in read.titles[0].shares] == [(2, 0.0), (3, 1200.0), (4, 2400.0)]


def test_empty_data_is_named_and_keeps_a_title_from_being_converted(tmp_path: Path) -> None:
    built = BuiltSet(chains=[BuiltChain(cells=[BuiltCell("00001040", 0, 9)])], titles=[[(1, 1)]])
    read = read_dvd(disc(tmp_path, built, (1, 1, 1)), ScanProgress())
    assert (read.titles[0].fault, read.problems[0].code) == ("no_data", "no_data")
    short = read_dvd(disc(tmp_path, built, (1, 1, 1), sectors=0), ScanProgress())
    assert short.titles[0].fault == "cut_off"


@pytest.mark.parametrize(
    ("first", "last", "expected"), [(0, 4, [("a", 0, 5)]), (3, 7, [("a", 3, 2), ("b", 0, 3)]), (9, 20, [("b", 4, 1)])]
)
def test_cells_may_straddle_the_parts_of_a_title_set(
    first: int, last: int, expected: list[tuple[str, int, int]]
) -> None:
    parts = [Extent(path=name, offset_bytes=0, length_bytes=5 * 2048) for name in "ab"]
    found = sector_extents(parts, first, last)
    assert [(e.path, e.offset_bytes // 2048, e.length_bytes // 2048) for e in found] == expected


@pytest.mark.parametrize("damage", [b"", b"DVDVIDEO-VTS", bytes(3000)])
def test_tables_that_are_none_are_refused(damage: bytes) -> None:
    for reader in (read_manager, read_title_set):
        with pytest.raises(TablesBroken):
            reader(damage)


def test_tracks_that_are_only_declared_are_found_out_from_the_data(media: Path, disc_copy: Path) -> None:
    path = disc_copy / "VIDEO_TS" / "VTS_02_0.IFO"
    table = bytearray(path.read_bytes())
    table[0x202:0x204] = (2).to_bytes(2)
    table[0x20C:0x214] = audio(AC3, 6, "fr", 1).ljust(8, b"\0")
    chains = int.from_bytes(table[0xCC:0xD0]) * 2048
    for number in range(int.from_bytes(table[chains : chains + 2])):
        chain = chains + int.from_bytes(table[chains + 12 + 8 * number : chains + 16 + 8 * number])
        table[chain + 0x0E : chain + 0x10] = b"\x81\x00"
    path.write_bytes(table)
    read = read_source(disc_copy)
    assert [len(title.audio) for title in read.titles] == [2, 1, 1, 1, 1, 1]
    assert [(p.code, p.title) for p in read.problems] == [("track_absent", n) for n in range(2, 7)]
    assert "audio track 2 (French)" in problem_text(read.problems[0])


def test_title_sets_without_the_disc_s_own_table_are_titles_all_the_same(disc_copy: Path, film_disc: Source) -> None:
    for name in ("VIDEO_TS.IFO", "VIDEO_TS.BUP", "VTS_01_0.IFO", "VTS_01_0.BUP", "VTS_01_1.VOB"):
        (disc_copy / "VIDEO_TS" / name).unlink()
    read = read_source(disc_copy)
    assert [title.duration_s for title in read.titles] == [title.duration_s for title in film_disc.titles[1:]]
    assert [title.key for title in read.titles] == [f"2/{n}" for n in range(1, 6)]


def test_a_title_set_that_was_left_behind_is_named(disc_copy: Path) -> None:
    for path in (disc_copy / "VIDEO_TS").glob("VTS_01_*"):
        path.unlink()
    read = read_source(disc_copy)
    assert (read.problems[0].code, read.problems[0].title) == ("not_kept", 1)


def test_stills_and_moments_are_menus(tmp_path: Path) -> None:
    chains = [
        BuiltChain(cells=[BuiltCell("00200040", 0, 9)]),
        BuiltChain(cells=[BuiltCell("00000540", 10, 11, still=255), BuiltCell("00000540", 12, 13, still=255)]),
        BuiltChain(cells=[BuiltCell("00000000", 14, 14)]),
    ]
    built = BuiltSet(chains=chains, titles=[[(n, 1)] for n in (1, 2, 3)])
    read = read_dvd(disc(tmp_path, built, *((1, n, 1) for n in (1, 2, 3))), ScanProgress())
    assert [title.role for title in read.titles] == ["feature", "menu", "menu"]
    assert [title.reasons[0].code for title in read.titles] == ["only_title", "stands_still", "very_short"]


def test_what_a_track_is_for_comes_from_its_code_extension(tmp_path: Path) -> None:
    built = BuiltSet(
        chains=[
            BuiltChain(
                cells=[BuiltCell("00001040", 0, 9)],
                audio={n: 0x8000 | n << 8 for n in range(4)},
                subpictures={n: 0x80000000 | n << 24 for n in range(4)},
            )
        ],
        titles=[[(1, 1)]],
        audio=[audio(AC3, 2, "en", code) for code in (1, 2, 3, 4)],
        subpictures=[subpicture("en", code) for code in (1, 5, 9, 13)],
    )
    title = read_dvd(disc(tmp_path, built, (1, 1, 1)), ScanProgress()).titles[0]
    assert [track.purpose.value for track in title.audio] == ["main", "description", "commentary", "commentary"]
    assert [track.purpose.value for track in title.subtitles] == ["main", "captions", "unknown", "commentary"]
    assert [track.forced.value for track in title.subtitles] == ["unknown", "unknown", "all", "unknown"]
