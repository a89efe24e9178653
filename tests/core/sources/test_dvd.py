"""Reading authored discs whose truth is known."""

from __future__ import annotations

import shutil
from fractions import Fraction
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from rheon.core.errors import CutOffImage, EmptyDisc, NotASource, RheonError, Stopped, TablesBroken
from rheon.core.media import CellData, Role, Scan, Source
from rheon.core.sources import ScanProgress, read_source
from rheon.core.sources.dvd.ifo import cell_time, palette_colour, read_manager, read_title_set
from rheon.core.sources.dvd.program_stream import sample
from rheon.core.wording import duration_text, problem_text
from rheon.demo import scenario

SECTOR = 2048


def test_the_film_disc_reads_as_it_was_authored(film_disc: Source) -> None:
    film = film_disc.titles[0]
    assert (film_disc.label, film_disc.kind, film_disc.form, len(film_disc.titles)) == (
        "MARRAM_NIGHTS",
        "dvd",
        "folder",
        6,
    )
    assert film.duration_s == pytest.approx(scenario.FILM.duration_s, abs=0.1)
    assert [(track.codec, track.channels, track.language) for track in film.audio] == [
        ("ac3", 6, "en"),
        ("ac3", 2, "es"),
    ]
    assert [(track.format, track.language) for track in film.subtitles] == [
        ("dvd_subtitle", "en"),
        ("dvd_subtitle", "es"),
    ]
    assert [c.start_s for c in film.chapters] == pytest.approx(scenario.FILM_CHAPTERS_S, abs=0.5)
    video = film.video
    assert video is not None
    assert (video.width, video.height, video.display_aspect, video.frame_rate, video.scan) == (
        720,
        480,
        Fraction(16, 9),
        Fraction(30000, 1001),
        Scan.PROGRESSIVE,
    )
    assert [t.duration_s for t in film_disc.titles[1:]] == pytest.approx(
        [e.duration_s for e in scenario.EXTRAS], abs=0.1
    )


def test_the_series_image_is_read_without_unpacking(series_disc: Source, media: Path) -> None:
    image = str(media / "LANTERN_STREET_S1.iso")
    assert series_disc.form == "image"
    assert series_disc.bytes_read < series_disc.size_bytes / 5
    for title, episode in zip(series_disc.titles, scenario.EPISODES, strict=True):
        assert title.duration_s == pytest.approx(episode.duration_s, abs=0.1)
        assert isinstance(title.data, CellData)
        assert {extent.path for extent in title.data.extents} == {image}
        assert title.video is not None
        assert (title.video.height, title.video.scan, title.video.display_aspect) == (
            576,
            Scan.INTERLACED,
            Fraction(4, 3),
        )


def test_a_title_s_bytes_are_its_cells_and_nothing_else(film_disc: Source, media: Path) -> None:
    whole = sum(path.stat().st_size for path in (media / "MARRAM_NIGHTS" / "VIDEO_TS").glob("VTS_02_[1-9].VOB"))
    extras = [title for title in film_disc.titles if title.role is Role.EXTRA]
    assert sum(title.size_bytes for title in extras) == whole
    starts = [title.data.extents[0].offset_bytes for title in extras if isinstance(title.data, CellData)]
    assert starts == sorted(set(starts))


def test_roles_come_with_their_evidence(film_disc: Source, series_disc: Source) -> None:
    assert [title.role for title in film_disc.titles] == [Role.FEATURE] + [Role.EXTRA] * 5
    assert film_disc.titles[0].reasons[0].code == "longest"
    assert {title.role for title in series_disc.titles} == {Role.EPISODE}


def test_a_scan_says_where_it_is_and_stops_when_told(media: Path) -> None:
    seen: list[tuple[int, int]] = []
    progress = ScanProgress(on_title=lambda n, of: seen.append((n, of)), should_stop=lambda: len(seen) >= 3)
    with pytest.raises(Stopped):
        read_source(media / "MARRAM_NIGHTS", progress)
    assert seen == [(1, 6), (2, 6), (3, 6)]


def test_broken_tables_are_read_from_their_backups(disc_copy: Path, film_disc: Source) -> None:
    for name in ("VIDEO_TS.IFO", "VTS_01_0.IFO"):
        path = disc_copy / "VIDEO_TS" / name
        path.write_bytes(b"\0" * path.stat().st_size)
    read = read_source(disc_copy)
    assert [(t.number, t.duration_s, t.role) for t in read.titles] == [
        (t.number, t.duration_s, t.role) for t in film_disc.titles
    ]
    assert read.problems == ()


def test_a_title_set_without_any_good_table_costs_only_its_own_titles(disc_copy: Path) -> None:
    for name in ("VTS_01_0.IFO", "VTS_01_0.BUP"):
        (disc_copy / "VIDEO_TS" / name).write_bytes(b"scratched")
    read = read_source(disc_copy)
    assert [title.number for title in read.titles] == [2, 3, 4, 5, 6]
    assert [(problem.code, problem.title) for problem in read.problems] == [("tables_broken", 1)]


def test_a_disc_without_a_good_title_table_is_refused_with_what_to_do(disc_copy: Path) -> None:
    for name in ("VIDEO_TS.IFO", "VIDEO_TS.BUP"):
        (disc_copy / "VIDEO_TS" / name).write_bytes(b"")
    with pytest.raises(TablesBroken, match=r"both VIDEO_TS.IFO and its backup .* Copy the disc again"):
        read_source(disc_copy)


def test_scrambled_titles_are_found_from_their_data_and_marked(disc_copy: Path, media: Path) -> None:
    vob = disc_copy / "VIDEO_TS" / "VTS_02_1.VOB"
    data = bytearray((media / "MARRAM_NIGHTS" / "VIDEO_TS" / "VTS_02_1.VOB").read_bytes())
    vob.unlink()
    for start in range(len(data) // 4 // SECTOR * SECTOR, len(data), SECTOR):
        packet = start + 14 + (data[start + 13] & 7)
        if data[packet + 3] in (0xE0, 0xBD):
            data[packet + 6] |= 0x30
    vob.write_bytes(data)
    read = read_source(disc_copy)
    assert [title.number for title in read.titles if title.fault == "scrambled"] == [2, 3, 4, 5, 6]
    assert read.titles[0].fault is None
    assert "stops here" in problem_text(read.problems[0])


def test_a_cut_off_image_keeps_what_is_whole_and_names_the_rest(media: Path, tmp_path: Path) -> None:
    whole = media / "LANTERN_STREET_S1.iso"
    short = tmp_path / "short.iso"
    third = read_source(whole).titles[2].data
    assert isinstance(third, CellData)
    with whole.open("rb") as source:
        short.write_bytes(source.read(third.extents[0].offset_bytes + third.extents[0].length_bytes // 2))
    read = read_source(short)
    assert [title.fault for title in read.titles] == [None, None, None, "cut_off"]
    assert [(p.code, p.title) for p in read.problems] == [("cut_off", 3), ("cut_off", 4)]
    kept = read.titles[2]
    assert 1 < kept.duration_s < scenario.EPISODES[2].duration_s - 0.5
    assert f"end at {duration_text(kept.duration_s)}" in problem_text(read.problems[0])


@pytest.mark.parametrize(("kept_bytes", "error"), [(60_000, CutOffImage), (20_000, NotASource)])
def test_an_image_without_its_directories_is_refused(
    media: Path, tmp_path: Path, kept_bytes: int, error: type[Exception]
) -> None:
    short = tmp_path / "short.iso"
    with (media / "LANTERN_STREET_S1.iso").open("rb") as source:
        short.write_bytes(source.read(kept_bytes))
    with pytest.raises(error):
        read_source(short)


def test_what_is_no_disc_is_refused_each_in_its_own_words(tmp_path: Path) -> None:
    empty, nothing, text, bluray = (tmp_path / name for name in ("empty", "nothing", "text.mkv", "bluray"))
    (empty / "VIDEO_TS").mkdir(parents=True)
    nothing.mkdir()
    text.write_text("not a film")
    (bluray / "BDMV").mkdir(parents=True)
    said = {}
    for path in (empty, nothing, text, bluray, tmp_path / "gone"):
        with pytest.raises(RheonError) as refused:
            read_source(path)
        said[path.name] = refused.value.code
    assert said == {
        "empty": "empty_disc",
        "nothing": "empty_disc",
        "text.mkv": "not_a_source",
        "bluray": "empty_disc",
        "gone": "source_missing",
    }


def test_lower_case_names_and_loose_files_are_discs_too(disc_copy: Path, film_disc: Source) -> None:
    loose = disc_copy.parent / "loose"
    loose.mkdir()
    for path in (disc_copy / "VIDEO_TS").iterdir():
        shutil.move(str(path), loose / path.name.lower())
    assert len(read_source(loose).titles) == len(film_disc.titles)


@pytest.mark.parametrize(
    ("raw", "seconds"),
    [
        ("01020314 ".strip(), 0.0),
        ("00013040", 90.0),
        ("000130c0", 90 * 1.001),
        ("00000052", 12 / 25),
        ("01000040", 3600.0),
    ],
)
def test_cell_times_are_bcd_and_ntsc_counts_run_slow(raw: str, seconds: float) -> None:
    expected = seconds or 3600 + 2 * 60 + 3 + 14 / 25
    assert cell_time(bytes.fromhex(raw)) == pytest.approx(expected)


def test_palette_words_become_colours_by_bt_601() -> None:
    assert [palette_colour(word) for word in (0x00108080, 0x00EB8080, 0x0051F05A)] == ["000000", "ffffff", "fe0000"]


@settings(max_examples=120, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.data())
def test_damaged_tables_never_do_worse_than_being_refused(media: Path, data: st.DataObject) -> None:
    name, reader = data.draw(st.sampled_from([("VIDEO_TS.IFO", read_manager), ("VTS_01_0.IFO", read_title_set)]))
    table = bytearray((media / "MARRAM_NIGHTS" / "VIDEO_TS" / name).read_bytes())
    for at, value in data.draw(st.lists(st.tuples(st.integers(0, len(table) - 1), st.integers(0, 255)), max_size=40)):
        table[at] = value
    damaged = bytes(table[: data.draw(st.integers(0, len(table)))])
    try:
        reader(damaged)
    except TablesBroken as refused:
        assert refused.message


@settings(max_examples=80, deadline=None)
@given(st.binary(min_size=0, max_size=3 * SECTOR), st.booleans())
def test_any_bytes_can_be_sampled(data: bytes, looks_like_a_pack: bool) -> None:
    facts = sample((b"\x00\x00\x01\xba" if looks_like_a_pack else b"") + data)
    assert 0 <= facts.scrambled_packs <= facts.packs * SECTOR


def test_an_empty_title_list_is_an_empty_disc(disc_copy: Path) -> None:
    for name in ("VIDEO_TS.IFO", "VIDEO_TS.BUP"):
        path = disc_copy / "VIDEO_TS" / name
        table = bytearray(path.read_bytes())
        at = int.from_bytes(table[0xC4:0xC8]) * SECTOR
        table[at : at + 2] = b"\0\0"
        path.write_bytes(table)
    with pytest.raises(EmptyDisc):
        read_source(disc_copy)
