"""Cut to the picture with only the edges encoded: what is between them is copied, and nobody sees where that begins."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import pytest
from tests.instruments.cutting import BOTH_ENDS, ONE, Cut, held
from tests.instruments.engine import output_of
from tests.instruments.readback import Seen, see
from tests.instruments.sources import BY_NAME
from tests.thorough import thorough

from rheon.core.analysis import cut_places
from rheon.core.analysis.access_points import copied_middles
from rheon.core.checking.whole import Ends, whole_rules
from rheon.core.delivery import Order, convert
from rheon.core.encoding.parameter_sets import free_id, headers_of
from rheon.core.encoding.transport import count_pictures, first_picture, with_headers
from rheon.core.engine import probe
from rheon.core.engine.packets import read_packets
from rheon.core.errors import BadPin, PlanError
from rheon.core.media import Action, Colour, KeptRange, Title
from rheon.core.planning import Plan, PlanRequest, plan, read_pins
from rheon.core.planning.decisions.range import KEEP
from rheon.core.planning.decisions.range.keep import kept_of
from rheon.core.sources import read_source
from rheon.demo.models import device


def planned(title: Title, device_id: str, said: str, **pins: str) -> Plan:
    read = read_pins({"range.keep": said, **{key.replace("_", ".", 1): value for key, value in pins.items()}})
    kept = read.of(KEEP)
    places = cut_places(title, kept_of(title, kept) if kept else ())
    profiles = (device(device_id),)
    request = PlanRequest(title=title, devices=profiles, name="made", pins=read, middles=places.middles)
    return plan(replace(request, copy_ranges=places.copies))


def made_of(title: Title, made: Plan, device_id: str, folder: Path) -> tuple[Path, list[Plan]]:
    """The file, and the plan that was carried out instead, if one was."""
    instead: list[Plan] = []
    order = Order(title=title, plan=made, devices=[device(device_id)], folder=folder, token=uuid.uuid4().hex)
    return convert(order, on_instead=lambda plan, error: instead.append(plan)).path, instead


def has_edges(made: Plan) -> bool:
    assert made.settings and made.settings.video
    return bool(made.settings.middles) and made.settings.video.action is Action.COPY


@pytest.mark.parametrize(
    ("name", "device_id", "container", "cut"),
    [
        thorough("film.mkv", "gannet-43", "matroska", BOTH_ENDS),
        ("film.mp4", "curlew-9", "mp4", BOTH_ENDS),
        ("late.mkv", "curlew-9", "mp4", ONE),  # the first picture late, many pictures that look ahead
        thorough("transport.ts", "gannet-50", "mpeg_ts", ONE),
        ("lines.ts", "redshank-book-2", "mpeg_ts", BOTH_ENDS),
        thorough("closed.mpg", "redshank-book-2", "mpeg_ps", BOTH_ENDS),
        thorough("closed.mpg", "goosander-disc", "matroska", ONE),
    ],
)
def test_a_file_is_cut_to_the_picture_and_copied_between_the_edges(
    name: str, device_id: str, container: str, cut: Cut, sources: Callable[[str], Path], tmp_path: Path
) -> None:
    path = sources(name)
    title = read_source(path).titles[0]
    made = planned(title, device_id, cut.said, file_container=container, range_cut="edges")
    assert has_edges(made)
    file, instead = made_of(title, made, device_id, tmp_path)
    assert not instead
    held(file, see(path), BY_NAME[name].rate, cut)
    untouched = picture_hashes(path) & picture_hashes(file)
    between = sum(middle.length_s for middle in made.settings.middles) if made.settings else 0
    # key pictures may get their headers in front of them
    assert len(untouched) >= between * float(BY_NAME[name].rate) * 0.9


def picture_hashes(path: Path) -> set[str]:
    """A mark of each stored picture, whatever the container wraps it in."""
    argv = ["ffmpeg", "-v", "error", "-i", str(path), "-map", "0:V:0", "-c", "copy"]
    video = probe(str(path)).video
    if video is not None and video.codec == "h264":
        argv += ["-bsf:v", "h264_mp4toannexb,filter_units=remove_types=7-9"]
    said = output_of([*argv, "-f", "framehash", "-hash", "md5", "pipe:1"]).decode()
    return {line.split(",")[5].strip() for line in said.splitlines() if line[:1].isdigit()}


@pytest.mark.parametrize(("kind", "cut"), [thorough("pal", BOTH_ENDS), ("ntsc", ONE), thorough("clips", BOTH_ENDS)])
def test_a_disc_s_title_is_cut_to_the_picture_and_copied_between_the_edges(
    kind: str, cut: Cut, discs: dict[str, tuple[Title, Fraction, int]], tmp_path: Path
) -> None:
    title, rate, count = discs[kind]
    made = planned(title, "redshank-book-2", cut.said, range_cut="edges")
    assert has_edges(made)
    file, instead = made_of(title, made, "redshank-book-2", tmp_path)
    assert not instead
    held(file, Seen(numbers=tuple(range(count)), times=tuple(n / float(rate) for n in range(count))), rate, cut)


@pytest.mark.parametrize("turned", [90, thorough(180), thorough(270)])
def test_a_picture_that_players_turn_stays_so_and_only_goes_where_that_can_be_said(
    turned: int, sources: Callable[[str], Path], tmp_path: Path
) -> None:
    path = tmp_path / "turned.mp4"
    argv = ["ffmpeg", "-v", "error", "-i", str(sources("film.mp4")), "-c", "copy"]
    output_of([*argv, "-metadata:s:v:0", f"rotate={turned}", str(path)])
    title = read_source(path).titles[0]
    # its own choice is Matroska, which says nothing of it
    made = planned(title, "gannet-43", "1.2-9.7")
    assert has_edges(made) and made.settings and made.settings.container == "mp4"
    (tmp_path / "made").mkdir()
    file, instead = made_of(title, made, "gannet-43", tmp_path / "made")
    assert not instead
    video = probe(str(file)).video
    assert video is not None and video.rotation == turned
    back = {90: "transpose=clock", 180: "hflip,vflip", 270: "transpose=cclock"}[turned]
    assert list(see(file, back).numbers) == list(range(29, 233))
    with pytest.raises(PlanError, match="lie on its side"):
        plan(PlanRequest(title=title, devices=(device("faithful-copy"),), name="made"))


def test_a_file_that_does_not_pass_its_checks_is_converted_instead_and_says_so(
    sources: Callable[[str], Path], tmp_path: Path
) -> None:
    """Pictures that are refreshed bit by bit come out of a decoder late behind others: no header tells it."""
    path = sources("rolling.mp4")
    title = read_source(path).titles[0]
    made = planned(title, "redshank-book-2", "-8.52")
    # as if the place in the middle of a refresh were a clean start
    assert has_edges(made) and made.settings
    broken = replace(made.settings, middles=(KeptRange(from_s=2.0, until_s=8.0),))
    file, instead = made_of(title, replace(made, settings=broken), "redshank-book-2", tmp_path)
    assert [one.reason.code for one in instead[0].decisions if one.key == "range.cut"] == ["cut_edges_failed"]
    assert list(see(file).numbers) == list(range(213))
    assert [found.name for found in tmp_path.iterdir()] == [file.name]


@pytest.mark.parametrize(
    ("name", "change"),
    [
        ("open.mkv", {}),  # key pictures that need those before them
        ("film.mp4", {"bit_depth": 10}),
        ("film.mp4", {"variable_rate": True}),
        ("film.mp4", {"codec": "vp9"}),
        ("film.mp4", {"colour": Colour(matrix="bt709", primaries="bt709", transfer="bt709", full_range=True)}),
    ],
)
def test_where_encoded_pictures_could_not_stand_beside_copied_ones_all_is_converted(
    name: str, change: dict[str, object], sources: Callable[[str], Path]
) -> None:
    title = read_source(sources(name)).titles[0]
    assert title.video is not None
    title = replace(title, video=replace(title.video, **change))  # type: ignore[arg-type]
    assert copied_middles(title, (KeptRange(from_s=1.2, until_s=9.7),)) is None
    with pytest.raises(BadPin, match="can't be copied between"):
        planned(title, "redshank-book-2", "1.2-9.7", range_cut="edges")


def test_only_the_edges_are_encoded_where_that_leaves_most_of_it_and_the_device_takes_it(
    sources: Callable[[str], Path],
) -> None:
    title = read_source(sources("film.mp4")).titles[0]
    assert has_edges(planned(title, "curlew-9", "1.2-9.7"))
    # key pictures lie 2 s apart: here there is more edge than middle
    assert not has_edges(planned(title, "curlew-9", "0.1-3.5"))
    assert not has_edges(planned(title, "curlew-9", "1.2-9.7", range_cut="exact"))
    for pins in ({"picture_size": "180"}, {"file_container": "avi"}):
        with pytest.raises(BadPin):
            planned(title, "redshank-book-2", "1.2-9.7", range_cut="edges", **pins)
        assert not has_edges(planned(title, "redshank-book-2", "1.2-9.7", **pins))


def test_a_picture_too_few_or_too_many_where_pieces_meet_is_found(
    sources: Callable[[str], Path], tmp_path: Path
) -> None:
    title = read_source(sources("film.mp4")).titles[0]
    file, _ = made_of(title, planned(title, "curlew-9", "1.2-9.7"), "curlew-9", tmp_path)
    found, packets = probe(str(file)), read_packets(str(file))
    assert found.video is not None and found.video.place is not None
    wanted = Ends(even_s=float(1 / found.video.frame_rate))
    pictures = packets[found.video.place]

    def even() -> bool:
        return {rule.rule: rule.ok for rule in whole_rules(wanted, found, packets)}["pictures_even"]

    assert even()
    shown = list(pictures.shown)
    pictures.shown[10:11] = []
    assert not even()
    pictures.shown[:] = [*shown[:11], shown[10], *shown[11:]]
    assert not even()


@pytest.mark.parametrize("size", [1, 150, 182, 183, 400, 5000])
def test_headers_are_put_before_the_first_picture_and_every_packet_stays(
    size: int, sources: Callable[[str], Path]
) -> None:
    argv = ["ffmpeg", "-v", "error", "-i", str(sources("film.mp4")), "-map", "0:V:0", "-c", "copy", "-f", "mpegts"]
    stream = output_of([*argv, "pipe:1"])
    headers = b"\0\0\0\1\x68" + bytes(range(1, 251)) * 20
    made = b"".join(with_headers(iter([stream[:100], stream[100:5000], stream[5000:]]), headers[:size]))
    first, before = first_picture(made), first_picture(stream)
    assert first is not None and before is not None
    assert (first.data, first.pts, first.dts) == (headers[:size], before.pts, before.dts)
    assert count_pictures(made) == count_pictures(stream) + 1
    assert len(made) % 188 == 0 and made.endswith(stream[-188 * 20 :])


def test_encoded_headers_get_a_number_that_the_source_s_leave_free(sources: Callable[[str], Path]) -> None:
    argv = ["ffmpeg", "-v", "error", "-i", str(sources("film.mp4")), "-map", "0:V:0", "-c", "copy", "-frames:v", "1"]
    first = output_of([*argv, "-bsf:v", "h264_mp4toannexb", "-f", "h264", "pipe:1"])
    headers = headers_of(first)
    assert headers and free_id(headers) == 1
    for number in (0, 1, 6, 30):
        again = ["-c:v", "libx264", "-x264-params", f"sps-id={number}", "-frames:v", "1", "-f", "h264", "pipe:1"]
        other = output_of([*argv[: argv.index("-c")], *again])
        assert free_id(headers_of(other)) == (1 if number == 0 else 0)
        assert free_id(headers + headers_of(other)) == (2 if number == 1 else 1)
