"""No part of a source is lost without a word: cut-off files, changed sources, streams without data, rare kinds."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import numpy as np
import pytest
from tests.instruments.authored import Pictures, author, clicks, plain, write_sound
from tests.instruments.engine import output_of
from tests.instruments.looked import looked_over
from tests.instruments.readback import hear, see
from tests.instruments.sources import AAC, AC3, ASP, H264, MP3
from tests.thorough import always, thorough

from rheon.core.delivery import Delivered, Order, convert
from rheon.core.devices import Verdict, judge_title
from rheon.core.encoding import Hooks, Progress
from rheon.core.errors import (
    CutOffFile,
    ForbiddenFormat,
    LossNotAccepted,
    NotASource,
    NotWhole,
    RheonError,
    SourceChanged,
    TargetError,
)
from rheon.core.media import Title
from rheon.core.planning import Action, PlanRequest, plan
from rheon.core.sources import read_source
from rheon.core.wording import fact_text
from rheon.demo.models import device

PAL = Fraction(25)
PICTURES = Pictures(count=200, rate=PAL, size=(160, 120))
WHOLE_KINDS = {
    "mkv": (*H264, *AAC),
    "mp4": (*H264, *AAC, "-movflags", "+faststart"),
    "avi": (*ASP, *MP3),
    "flv": (*H264, *AAC),
    "wmv": ("-c:v", "wmv2", "-b:v", "1M", "-c:a", "wmav2"),
}


def order(title: Title, folder: Path, device_id: str = "curlew-2", *, accept_loss: bool = False) -> Order:
    profile = device(device_id)
    wanted = plan(PlanRequest(title=title, devices=(profile,), name="made"))
    return Order(
        title=title, plan=wanted, devices=[profile], folder=folder, token=uuid.uuid4().hex, accept_loss=accept_loss
    )


def titled(path: Path) -> Title:
    return read_source(path).titles[0]


@pytest.mark.parametrize("kind", always(("avi", "mkv"), of=WHOLE_KINDS))
def test_a_file_that_stops_halfway_is_told_and_made_only_after_a_yes(kind: str, tmp_path: Path) -> None:
    whole = plain(tmp_path / f"whole.{kind}", PICTURES, WHOLE_KINDS[kind])
    assert titled(whole).promised_s is None
    path = tmp_path / f"film.{kind}"
    path.write_bytes(whole.read_bytes()[: whole.stat().st_size // 2])
    source = read_source(path)
    title = source.titles[0]
    assert title.promised_s == pytest.approx(8.0, abs=0.3)
    assert 2.0 < title.duration_s < 6.0
    assert [problem.code for problem in source.problems] == ["cut_off"]
    with pytest.raises(LossNotAccepted, match="ends at 0:0"):
        convert(order(title, tmp_path))
    done = convert(order(title, tmp_path, accept_loss=True))
    told = [rule for rule in done.checks[0].results if rule.rule == "source_whole"]
    assert [rule.ok for rule in told] == [False] and "0:08" in fact_text(told[0].allowed)
    seen = see(done.path)
    assert seen.numbers[0] == 0 and seen.times[-1] == pytest.approx(title.duration_s, abs=0.6)


@pytest.mark.parametrize("kind", ["avi", "mkv"])
def test_a_large_file_is_judged_by_its_head_and_tail(
    kind: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("rheon.core.sources.files.measured.WHOLE_BYTES", 0)
    monkeypatch.setattr("rheon.core.sources.files.measured.HEAD_S", 2.0)
    monkeypatch.setattr("rheon.core.sources.files.measured.TAIL_S", 2.0)
    whole = plain(tmp_path / f"whole.{kind}", PICTURES, WHOLE_KINDS[kind])
    title = titled(whole)
    assert title.promised_s is None and title.duration_s == pytest.approx(8.0, abs=0.1)
    assert title.video is not None and title.video.frame_rate == PAL
    path = tmp_path / f"film.{kind}"
    path.write_bytes(whole.read_bytes()[: whole.stat().st_size // 2])
    cut = titled(path)
    assert cut.promised_s == pytest.approx(8.0, abs=0.3) and cut.duration_s < 6.0


def test_a_file_without_its_index_says_so(tmp_path: Path) -> None:
    whole = plain(tmp_path / "whole.mp4", PICTURES, (*H264, *AAC))
    whole.write_bytes(whole.read_bytes()[: whole.stat().st_size // 2])
    with pytest.raises(CutOffFile, match="index"):
        read_source(whole)


def interfering(act: Callable[[], None]) -> Hooks:
    done: list[bool] = []

    def on_progress(_: Progress) -> None:
        if not done:
            done.append(True)
            act()

    return Hooks(on_progress=on_progress)


@pytest.mark.parametrize("change", ["cut", thorough("replaced")])
def test_a_source_that_changes_while_it_is_read_is_named_as_the_cause(change: str, tmp_path: Path) -> None:
    long = Pictures(count=1500, rate=PAL, size=(640, 480))
    path = plain(tmp_path / "film.mkv", long, (*H264, *AAC))
    title = titled(path)
    data = path.read_bytes()

    def act() -> None:
        path.write_bytes(data[: len(data) // 3] if change == "cut" else data[::-1])

    with pytest.raises(SourceChanged):
        convert(order(title, tmp_path), interfering(act))
    assert [found.name for found in tmp_path.iterdir()] == ["film.mkv"]


def test_a_folder_that_goes_away_is_named_as_the_cause(tmp_path: Path) -> None:
    title = titled(plain(tmp_path / "film.mkv", Pictures(count=1500, rate=PAL, size=(640, 480)), (*H264, *AAC)))
    folder = tmp_path / "out"
    folder.mkdir()

    def act() -> None:
        folder.rename(tmp_path / "elsewhere")

    with pytest.raises((TargetError, NotWhole)):
        convert(order(title, folder), interfering(act))


def test_a_file_that_is_another_one_than_was_scanned_is_not_made(tmp_path: Path) -> None:
    path = plain(tmp_path / "film.mkv", PICTURES, (*H264, *AAC))
    title = titled(path)
    plain(path, Pictures(count=90, rate=PAL, size=(160, 120)), (*H264, *AAC))
    with pytest.raises(SourceChanged):
        convert(order(title, tmp_path))


def test_an_output_that_ends_before_its_source_is_not_kept(tmp_path: Path) -> None:
    title = titled(plain(tmp_path / "film.mkv", PICTURES, (*H264, *AAC)))
    assert title.video is not None and title.video.span is not None
    longer = replace(title, video=replace(title.video, span=replace(title.video.span, end_s=11.0)), duration_s=11.0)
    with pytest.raises(NotWhole, match="pictures to the end"):
        convert(order(longer, tmp_path))
    assert [found.name for found in tmp_path.iterdir()] == ["film.mkv"]


def test_a_hole_in_a_file_is_told_before_and_after_and_takes_nothing_else_along(tmp_path: Path) -> None:
    path = plain(tmp_path / "recording.ts", PICTURES, (*H264, "-g", "12", *AC3))
    data = bytearray(path.read_bytes())
    middle = len(data) // 2 // 188 * 188
    data[middle : middle + 188 * 40] = bytes(188 * 40)
    path.write_bytes(data)
    source = read_source(path)
    title = source.titles[0]
    assert [problem.code for problem in source.problems] == ["unreadable"]
    (gap,) = title.gaps
    assert 2.5 < gap.from_s < gap.to_s < 5.5
    # a hi-fi television takes this sound as it is, but a torn frame would stay in it
    assert order(title, tmp_path, "cormorant-box").plan.settings.audio[0].action is Action.ENCODE  # type: ignore[union-attr]
    done = convert(order(title, tmp_path, accept_loss=True))
    told = [rule for rule in done.checks[0].results if rule.rule == "source_damage"]
    assert fact_text(told[0].measured).endswith(("could not be read at 0:03", "could not be read at 0:04"))
    numbers = see(done.path).numbers
    assert (numbers[0], numbers[-1]) == (0, 199)
    assert {n for n in range(200) if not gap.from_s - 0.6 <= n / 25 <= gap.to_s + 0.6} <= set(numbers)


def test_streams_that_hold_nothing_are_passed_over(tmp_path: Path) -> None:
    sound = write_sound(clicks(PICTURES.duration_s), tmp_path / "s.wav")
    path = author(tmp_path / "film.mkv", PICTURES, (*H264, *AAC, "-map", "1:a", "-frames:a:0", "0"), sounds=[sound])
    source = read_source(path)
    title = source.titles[0]
    held = [track.span for track in title.audio]
    assert len(held) == 1 and held[0] is not None and held[0].packets > 100
    assert [problem.code for problem in source.problems] == ["stream_empty"]
    done = convert(order(title, tmp_path))
    assert len(hear(done.path).clicks) >= 14


@pytest.mark.parametrize(
    ("suffix", "coding"),
    [
        ("wv", ("-vn", "-c:a", "wavpack")),
        thorough("tta", ("-vn", "-c:a", "tta")),
        thorough("caf", ("-vn", "-c:a", "pcm_s16le")),
        thorough("au", ("-vn", "-c:a", "pcm_s16be")),
        ("rm", ("-c:v", "rv20", "-b:v", "1M", *AC3)),
        thorough("nut", ("-c:v", "ffv1", "-c:a", "flac")),
        thorough("ogv", ("-c:v", "libtheora", "-b:v", "1M", "-c:a", "libvorbis")),
        ("mpg", ("-c:v", "mpeg1video", "-b:v", "1M", "-c:a", "mp2")),
    ],
)
def test_kinds_of_files_from_elsewhere_are_read_and_made(suffix: str, coding: tuple[str, ...], tmp_path: Path) -> None:
    size = (176, 144)
    sound = write_sound(clicks(4.0), tmp_path / "s.wav")
    path = tmp_path / f"film.{suffix}"
    if "-vn" in coding:
        output_of(["ffmpeg", "-v", "error", "-y", "-i", str(sound), *coding, str(path)])
        sound_only = titled(path)
        done = convert(order(sound_only, tmp_path, "sound-only"))
    else:
        author(path, Pictures(count=100, rate=PAL, size=size), coding, sounds=[sound])
        done = convert(order(titled(path), tmp_path))
        assert len(see(done.path).numbers) >= 99
    assert len(hear(done.path).clicks) >= 7


def test_lists_and_unknown_kinds_are_told_apart(tmp_path: Path) -> None:
    listing = tmp_path / "film.mkv"
    listing.write_text("#EXTM3U\n#EXT-X-TARGETDURATION:10\n#EXTINF:9,\n/etc/hostname\n")
    with pytest.raises(ForbiddenFormat, match="lies elsewhere"):
        read_source(listing)
    nonsense = tmp_path / "other.mkv"
    nonsense.write_bytes(bytes(range(256)) * 40)
    with pytest.raises(NotASource):
        read_source(nonsense)


def test_only_a_title_that_is_one_whole_file_plays_as_it_is(tmp_path: Path) -> None:
    path = plain(tmp_path / "film.mp4", PICTURES, (*H264, "-profile:v", "main", *AAC))
    title = titled(path)
    profile = device("curlew-9")
    assert judge_title(title, profile).verdict is Verdict.PLAYS
    assert judge_title(replace(title, part_of=1), profile).verdict is Verdict.REWRAP
    one, other = (replace(title.audio[0], index=n, language=lang) for n, lang in ((0, "es"), (1, "en")))
    foreign = judge_title(replace(title, audio=(one, other)), profile, ("en",))
    assert (foreign.verdict, foreign.reason.code) == (Verdict.REWRAP, "other_track_first")
    made = plan(PlanRequest(title=replace(title, audio=(one, other)), devices=(profile,), name="x", languages=("en",)))
    assert made.settings is not None and made.settings.audio[0].action is Action.COPY
    assert made.settings.audio[0].track == 1


def test_sizes_of_copied_and_lossless_streams_hold(tmp_path: Path) -> None:
    sound = write_sound(clicks(8.0), tmp_path / "s.wav")
    path = author(tmp_path / "film.mkv", PICTURES, (*H264, "-c:a", "pcm_s16le"), sounds=[sound])
    for device_id in ("faithful-copy", "sound-as-flac", "curlew-9"):
        wanted = order(titled(path), tmp_path, device_id)
        done: Delivered = convert(wanted)
        expected = wanted.plan.estimate
        assert expected is not None
        assert expected.size_low_bytes <= done.size_bytes <= expected.size_high_bytes


def test_sound_without_loss_is_measured_by_stretches_of_it(tmp_path: Path) -> None:
    """Clicks over near silence take a tenth of what noise takes: one share for all can't be right."""
    quiet = clicks(8.0)
    loud = np.random.default_rng(1).uniform(-9000, 9000, quiet.shape).astype(quiet.dtype)
    sizes = []
    for name, samples in (("quiet", quiet), ("loud", loud)):
        sound = write_sound(samples, tmp_path / f"{name}.wav")
        title = titled(author(tmp_path / f"{name}.mkv", PICTURES, (*H264, "-c:a", "pcm_s16le"), sounds=[sound]))
        title = looked_over(title)
        wanted = order(title, tmp_path, "sound-as-flac")
        done = convert(wanted)
        expected = wanted.plan.estimate
        assert expected is not None
        assert expected.size_low_bytes <= done.size_bytes <= expected.size_high_bytes
        assert expected.size_high_bytes < 1.8 * expected.size_low_bytes
        sizes.append(done.size_bytes)
    assert sizes[1] > 4 * sizes[0]


def test_every_refusal_is_an_error_of_the_tree(tmp_path: Path) -> None:
    for name, data in (
        ("a.avi", b"RIFF\0\0\0\0AVI LIST"),
        ("b.wmv", b"0&\xb2u" + bytes(60)),
        ("c.mkv", b"\x1aE\xdf\xa3"),
    ):
        (tmp_path / name).write_bytes(data)
        with pytest.raises(RheonError):
            read_source(tmp_path / name)
