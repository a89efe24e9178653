"""Blu-ray folders and images, authored by the demo's own writer, whose truth is known."""

from __future__ import annotations

import itertools
import shutil
from collections.abc import Iterator
from dataclasses import dataclass, replace
from fractions import Fraction
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.core.sources.disc_surgery import pts_of
from tests.instruments.engine import output_of

from rheon.core.commands import pipe_input
from rheon.core.errors import RheonError, TablesBroken
from rheon.core.media import CellData, Role, Scan, Source, StreamKind, Title
from rheon.core.sources import read_source
from rheon.core.sources.bluray.clpi import read_clip_info
from rheon.core.sources.bluray.mpls import read_playlist
from rheon.core.sources.bluray.transport_stream import ALIGNED_UNIT_BYTES, sample_clip
from rheon.core.sources.material.feed import feed_title
from rheon.core.sources.material.transport_timeline import (
    Stretch,
    TransportTimeline,
    section_check,
    stream_extension,
    transport_packets,
)
from rheon.core.wording import problem_text
from rheon.demo import scenario
from rheon.demo.bluray import (
    Clip,
    ClipRecipe,
    Item,
    Listing,
    Sound,
    clip_table,
    make_clip,
    playlist_table,
    write_playlist,
)
from rheon.demo.discs import make_image

FRAME_S = 1 / 24


@pytest.fixture(scope="session")
def heron(media: Path) -> Source:
    return read_source(media / scenario.HERON_LABEL)


@pytest.fixture
def heron_copy(media: Path, tmp_path: Path) -> Path:
    """A copy of the disc whose tables may be changed; its clips are links to the originals."""
    target = tmp_path / scenario.HERON_LABEL
    for path in (media / scenario.HERON_LABEL).rglob("*"):
        copy = target / path.relative_to(media / scenario.HERON_LABEL)
        if path.is_file():
            copy.parent.mkdir(parents=True, exist_ok=True)
            if path.suffix == ".m2ts":
                copy.symlink_to(path)
            else:
                shutil.copy(path, copy)
    return target


@dataclass(frozen=True)
class Built:
    disc: Path
    clip: Clip


@pytest.fixture(scope="module")
def many_codecs(tmp_path_factory: pytest.TempPathFactory) -> Built:
    """A clip with every kind of sound that the engine can make for a disc."""
    folder = tmp_path_factory.mktemp("codecs")
    sounds = [
        Sound(codec=codec, language=language, surround=surround, root_hz=200 + 40 * n)
        for n, (codec, language, surround) in enumerate(
            [("truehd", "eng", True), ("dts", "fra", True), ("pcm_bluray", "spa", False), ("ac3", "jpn", False)]
        )
    ]
    programme = replace(scenario.HERON_MENU, scene_s=6)
    disc = folder / "CODECS"
    clip = make_clip(ClipRecipe(programme=programme, sounds=sounds), disc, "00007", folder / "work")
    write_playlist(Listing(items=[Item(clip=clip)]), disc, "00007")
    return Built(disc=disc, clip=clip)


def data_of(title: Title) -> CellData:
    assert isinstance(title.data, CellData)
    return title.data


def test_a_disc_reads_as_it_was_authored(heron: Source) -> None:
    assert (heron.label, heron.kind, heron.form, heron.problems) == ("HERON_REACH", "bluray", "folder", ())
    assert [title.role for title in heron.titles] == [Role.MENU, Role.FEATURE, Role.DUPLICATE, Role.EXTRA]
    film = heron.titles[1]
    assert film.duration_s == pytest.approx(sum(part.duration_s for part in scenario.HERON), abs=0.1)
    assert [c.start_s for c in film.chapters] == pytest.approx(scenario.HERON_CHAPTERS_S, abs=0.1)
    assert [(t.codec, t.channels, t.language, t.stream_id) for t in film.audio] == [
        ("ac3", 6, "en", 0x1100),
        ("pcm_bluray", 2, "es", 0x1101),
    ]
    assert [(t.format, t.language, t.stream_id) for t in film.subtitles] == [("hdmv_pgs_subtitle", "en", 0x1200)]
    video = film.video
    assert video is not None
    assert (video.codec, video.width, video.height, video.frame_rate, video.scan) == (
        "h264",
        1280,
        720,
        Fraction(24),
        Scan.PROGRESSIVE,
    )


def test_clips_play_on_without_a_gap(heron: Source) -> None:
    film = data_of(heron.titles[1])
    pictures, sounds = (sorted(pts_of(feed_title(film), kind, StreamKind.TRANSPORT)) for kind in ("v", "a:1"))
    assert len(pictures) == round(sum(part.duration_s for part in scenario.HERON) / FRAME_S)
    assert max(b - a for a, b in itertools.pairwise(pictures)) < 1.5 * FRAME_S
    assert max(b - a for a, b in itertools.pairwise(sounds)) < 0.15
    assert sounds[-1] - sounds[0] == pytest.approx(32, abs=0.3)


def test_in_and_out_times_cut_a_clip_and_nothing_overlaps(heron_copy: Path, media: Path, heron: Source) -> None:
    tables = heron_copy / "BDMV" / "CLIPINF"
    first, second = (_clip_again(tables / f"{stem}.clpi") for stem in ("00001", "00002"))
    listing = Listing(
        items=[Item(clip=first, from_s=5, to_s=12), Item(clip=second, to_s=6), Item(clip=first, from_s=15)],
        chapters_s=(0, 7, 13),
    )
    write_playlist(listing, heron_copy, "00009")
    title = next(title for title in read_source(heron_copy).titles if title.key == "00009")
    assert title.duration_s == pytest.approx(7 + 6 + 5, abs=0.2)
    assert [chapter.start_s for chapter in title.chapters] == pytest.approx([0, 7, 13], abs=0.1)
    pictures, sounds = (sorted(pts_of(feed_title(data_of(title)), k, StreamKind.TRANSPORT)) for k in ("v", "a:1"))
    assert len(pictures) == pytest.approx(title.duration_s / FRAME_S, abs=2)
    steps = [b - a for a, b in itertools.pairwise(pictures)]
    assert 0.5 * FRAME_S < min(steps) <= max(steps) < 1.5 * FRAME_S
    assert max(b - a for a, b in itertools.pairwise(sounds)) < 0.2
    film = next(share for share in title.shares if share.title == 2)
    assert (film.from_s, film.to_s) == (0.0, pytest.approx(title.duration_s))


def _clip_again(table: Path) -> Clip:
    """An authored clip from its table: enough of it to list it once more."""
    info = read_clip_info(table.read_bytes())
    return Clip(
        stem=table.stem,
        sounds=[
            Sound(codec="ac3", language="eng", surround=True, root_hz=0),
            Sound(codec="pcm_bluray", language="spa", surround=False, root_hz=0),
        ],
        subtitles=["eng"],
        start=info.start,
        end=info.end,
        entries=(),
        packets=0,
    )


def test_angles_are_other_clips(heron_copy: Path) -> None:
    first, second = (_clip_again(heron_copy / "BDMV" / "CLIPINF" / f"{stem}.clpi") for stem in ("00001", "00002"))
    write_playlist(Listing(items=[Item(clip=second, angles=[first])]), heron_copy, "00010")
    title = next(title for title in read_source(heron_copy).titles if title.key == "00010")
    assert title.angles == 2
    other = data_of(title).other_angles[0]
    assert {Path(extent.path).name for cell in other for extent in cell.extents} == {"00001.m2ts"}
    assert sum(cell.duration_s for cell in other) == pytest.approx(title.duration_s, abs=0.1)


def test_clips_without_playlists_are_titles(heron_copy: Path) -> None:
    shutil.rmtree(heron_copy / "BDMV" / "PLAYLIST")
    titles = read_source(heron_copy).titles
    assert [title.duration_s for title in titles] == pytest.approx([20, 12, 6, 2], abs=0.1)
    assert [len(title.audio) for title in titles] == [2, 2, 1, 1]


def test_playlists_without_clip_tables_are_titles_too(heron_copy: Path) -> None:
    shutil.rmtree(heron_copy / "BDMV" / "CLIPINF")
    film = read_source(heron_copy).titles[1]
    assert [c.start_s for c in film.chapters] == pytest.approx(scenario.HERON_CHAPTERS_S, abs=0.1)
    pictures = sorted(pts_of(feed_title(data_of(film)), "v", StreamKind.TRANSPORT))
    assert len(pictures) == round(32 / FRAME_S)


def test_clips_alone_are_titles_by_their_own_time_stamps(heron_copy: Path) -> None:
    for part in ("CLIPINF", "PLAYLIST"):
        shutil.rmtree(heron_copy / "BDMV" / part)
    assert [t.duration_s for t in read_source(heron_copy).titles] == pytest.approx([20, 12, 6, 2], abs=0.2)


def test_what_was_not_copied_is_named(heron_copy: Path) -> None:
    (heron_copy / "BDMV" / "STREAM" / "00002.m2ts").unlink()
    (heron_copy / "BDMV" / "STREAM" / "00003.m2ts").unlink()
    (heron_copy / "BDMV" / "PLAYLIST" / "00002.mpls").write_bytes(b"scratched")
    read = read_source(heron_copy)
    assert [(p.code, p.title) for p in read.problems] == [
        ("tables_broken", None),
        ("cut_off", 2),
        ("not_kept", 3),
    ]
    assert read.titles[1].duration_s == pytest.approx(20, abs=0.1)


def test_scrambled_clips_are_found_from_their_data(heron_copy: Path, media: Path) -> None:
    clip = heron_copy / "BDMV" / "STREAM" / "00001.m2ts"
    data = bytearray(clip.read_bytes())
    clip.unlink()
    for start in range(0, len(data) - ALIGNED_UNIT_BYTES, ALIGNED_UNIT_BYTES):
        for at in range(start + 16, start + ALIGNED_UNIT_BYTES):
            data[at] = (data[at] * 167 + at * 31 + 7) & 255
    clip.write_bytes(data)
    (heron_copy / "AACS").mkdir()
    read = read_source(heron_copy)
    assert [title.fault for title in read.titles] == [None, "scrambled", "scrambled", None]
    assert "stops here" in problem_text(read.problems[0])


def test_a_hole_in_a_clip_costs_its_stretch_and_is_named_in_every_title_that_plays_it(heron_copy: Path) -> None:
    clip = heron_copy / "BDMV" / "STREAM" / "00001.m2ts"
    info = read_clip_info((heron_copy / "BDMV" / "CLIPINF" / "00001.clpi").read_bytes())
    data = bytearray(clip.read_bytes())
    clip.unlink()
    first, last = info.entry_packets[6] * 192, info.entry_packets[10] * 192
    data[first:last] = bytes(last - first)
    clip.write_bytes(data)
    read = read_source(heron_copy)
    film = read.titles[1]
    assert film.fault is None
    assert [(gap.from_s, gap.to_s) for gap in film.gaps] == [(pytest.approx(6, abs=0.1), pytest.approx(10, abs=0.1))]
    assert [(p.code, p.title) for p in read.problems] == [("unreadable", 2), ("unreadable", 3)]
    pictures = sorted(pts_of(feed_title(data_of(film)), "v", StreamKind.TRANSPORT))
    assert pictures[-1] - pictures[0] == pytest.approx(32, abs=0.2)
    assert max(b - a for a, b in itertools.pairwise(pictures)) == pytest.approx(4, abs=0.3)


@pytest.mark.parametrize("hidden", ["nothing", "ISO 9660", "UDF"])
def test_an_image_is_read_through_either_file_system(heron: Source, media: Path, tmp_path: Path, hidden: str) -> None:
    image = tmp_path / "heron.img"
    make_image(media / scenario.HERON_LABEL, "HERON_REACH", image, video_disc=False)
    data = bytearray(image.read_bytes())
    marks = {"nothing": (), "ISO 9660": (b"CD001",), "UDF": (b"NSR02", b"BEA01", b"TEA01")}[hidden]
    for sector in range(16, 32):
        if bytes(data[sector * 2048 + 1 : sector * 2048 + 6]) in marks:
            data[sector * 2048 : sector * 2048 + 2048] = bytes(2048)
    if hidden == "ISO 9660":
        data[16 * 2048 + 1 : 16 * 2048 + 6] = b"BEA01"
    if hidden == "UDF":
        data[256 * 2048 : 257 * 2048] = bytes(2048)
        data[-2048:] = bytes(2048)
    image.write_bytes(data)
    read = read_source(image)
    assert (read.kind, read.form, read.label) == ("bluray", "image", "HERON_REACH")
    assert [(t.duration_s, t.role, len(t.audio)) for t in read.titles] == [
        (t.duration_s, t.role, len(t.audio)) for t in heron.titles
    ]
    assert {extent.path for title in read.titles for extent in data_of(title).extents} == {str(image)}
    fed = sum(len(chunk) for chunk in feed_title(data_of(read.titles[3])))
    assert fed == sum(len(chunk) for chunk in feed_title(data_of(heron.titles[3])))


def test_every_kind_of_sound_is_listed_and_comes_out_of_the_feed(many_codecs: Built) -> None:
    title = read_source(many_codecs.disc).titles[0]
    assert [(t.codec, t.channels, t.language, t.is_core) for t in title.audio] == [
        ("truehd", 6, "en", False),
        ("ac3", 6, "en", True),
        ("dts", 6, "fr", False),
        ("pcm_bluray", 2, "es", False),
        ("ac3", 2, "ja", False),
    ]
    argv = ["ffprobe", "-v", "error", *pipe_input(StreamKind.TRANSPORT), "-show_entries", "stream=codec_name,id"]
    said = output_of([*argv, "-of", "csv=p=0"], feed=lambda: feed_title(data_of(title))).decode()
    found = {tuple(line.split(",")[:2]) for line in said.split()}
    assert {("truehd", "0x1100"), ("dts", "0x1101"), ("pcm_bluray", "0x1102"), ("ac3", "0x1103")} <= found


def test_a_core_is_announced_as_what_it_is(many_codecs: Built) -> None:
    title = read_source(many_codecs.disc).titles[0]
    fed = b"".join(feed_title(data_of(title), cores=frozenset({0x1100})))
    maps = [fed[at : at + 188] for at in range(0, len(fed), 188) if fed[at + 1 : at + 3] == b"\x41\x00"]
    assert maps
    for packet in maps:
        section = packet[5 + packet[4] :]
        length = (section[1] & 0x0F) << 8 | section[2]
        assert section_check(section[: 3 + length]) == 0
        assert b"\x83\xf1\x00" not in packet
        assert b"\x81\xf1\x00" in packet


def test_the_core_is_told_from_the_rest_by_its_extension() -> None:
    def header(extension: int) -> bytes:
        return b"\x00\x00\x01\xfd\x00\x00\x81\x81\x08" + bytes(5) + bytes([0x0F, 0x81, extension]) + b"payload"

    assert [stream_extension(header(value), 0) for value in (0x72, 0x76)] == [0x72, 0x76]
    assert stream_extension(b"\x00\x00\x01\xfd\x00\x00\x81\x80\x05" + bytes(9), 0) is None


@settings(max_examples=150)
@given(st.data())
def test_damaged_tables_never_do_worse_than_being_refused(media: Path, data: st.DataObject) -> None:
    folder = media / scenario.HERON_LABEL / "BDMV"
    path, reader = data.draw(
        st.sampled_from(
            [(folder / "PLAYLIST" / "00001.mpls", read_playlist), (folder / "CLIPINF" / "00001.clpi", read_clip_info)]
        )
    )
    table = bytearray(path.read_bytes())
    for at, value in data.draw(st.lists(st.tuples(st.integers(0, len(table) - 1), st.integers(0, 255)), max_size=30)):
        table[at] = value
    try:
        reader(bytes(table[: data.draw(st.integers(0, len(table)))]))
    except TablesBroken as refused:
        assert refused.message


@given(st.lists(st.integers(0, 10**6), min_size=1, max_size=40, unique=True), st.integers(0, 2**31))
def test_entry_points_survive_their_packing(gaps: list[int], start: int) -> None:
    times = list(itertools.accumulate([start, *(gap + 300 for gap in gaps)]))
    packets = list(itertools.accumulate(gap // 3 + 1 for gap in [0, *gaps]))
    kept = [(time, packet) for time, packet in zip(times, packets, strict=True) if time < 2**32]
    clip = Clip(stem="00001", sounds=(), subtitles=(), start=0, end=1, entries=kept, packets=1)
    info = read_clip_info(clip_table(clip))
    assert list(zip(info.entry_times, info.entry_packets, strict=True)) == [(t >> 8 << 8, p) for t, p in kept]


def test_a_playlist_survives_its_packing() -> None:
    clip = Clip(
        stem="00042",
        sounds=[Sound(codec="dts", language="deu", surround=True, root_hz=1)],
        subtitles=["fra", "eng"],
        start=1000,
        end=900_000,
        entries=(),
        packets=1,
    )
    read = read_playlist(playlist_table(Listing(items=[Item(clip=clip)] * 3, chapters_s=(0, 5, 25))))
    assert [(item.clips, item.in_time, item.out_time) for item in read.items] == [(("00042",), 1000, 900_000)] * 3
    assert [(s.packet_id, s.coding, s.language) for s in read.items[0].audio] == [(0x1100, 0x82, "deu")]
    assert [s.language for s in read.items[0].graphics] == ["fra", "eng"]
    assert read.marks == ((0, 1000), (0, 1000 + 5 * 45_000), (1, 1000 + round((25 - 899_000 / 45_000) * 45_000)))


@given(st.binary(max_size=3000), st.integers(-(2**33), 2**33), st.booleans())
def test_any_bytes_pass_the_time_line(data: bytes, offset: int, in_step: bool) -> None:
    if in_step:
        data = b"".join(bytes(4) + b"\x47" + data[at : at + 187].ljust(187, b"\0") for at in range(0, len(data), 187))
    line = TransportTimeline(
        stretch=Stretch(start_pts=0, end_pts=90_000, offset=offset, extents=(), lap=()),
        cores=frozenset({0x1100}),
    )
    passed = b"".join(map(line.pass_on, transport_packets(_in_bits(data))))
    assert len(passed) % 188 == 0
    assert len(passed) <= len(data)
    assert sample_clip(data).packets <= len(data) // 192


def _in_bits(data: bytes) -> Iterator[bytes]:
    for at in range(0, len(data), 1000):
        yield data[at : at + 1000]


@settings(max_examples=60)
@given(st.data())
def test_damaged_images_are_read_or_refused(
    media: Path, tmp_path_factory: pytest.TempPathFactory, data: st.DataObject
) -> None:
    """Directories at the front of an image, mutated: never a crash, never a read without end."""
    path = tmp_path_factory.mktemp("images") / "damaged.iso"
    with (media / f"{scenario.SERIES_LABEL}.iso").open("rb") as whole:
        image = bytearray(whole.read(700 * 2048))
    places = st.one_of(st.integers(16 * 2048, 40 * 2048), st.integers(256 * 2048, 300 * 2048))
    for at, value in data.draw(st.lists(st.tuples(places, st.integers(0, 255)), max_size=12)):
        image[at] = value
    path.write_bytes(image)
    try:
        assert read_source(path).titles
    except RheonError as refused:
        assert refused.message
    finally:
        path.unlink()
