"""Programs end with their errors told, and none is left running."""

from __future__ import annotations

import time
from collections.abc import Iterator
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.engine import Command, WorkClock, awaited, limit_memory, parse_version, run, stand_by, steered, tools
from rheon.core.errors import (
    EngineError,
    EngineKilled,
    EngineMissing,
    EngineOutOfMemory,
    EngineTimedOut,
    EngineTooOld,
    ForbiddenFormat,
    NotASource,
    SourceMissing,
    Stopped,
    ToolMissing,
)
from rheon.core.sources import read_source
from rheon.core.system import is_alive, process_identity


def test_output_input_and_failure_come_back() -> None:
    assert run(Command(argv=["cat"], feed=lambda: iter([b"one ", b"two"]))).stdout == b"one two"
    with pytest.raises(EngineError) as failed:
        run(Command(argv=["sh", "-c", "echo no such luck >&2; exit 7"]))
    assert failed.value.facts["status"] == 7
    assert failed.value.facts["tail"] == ["no such luck"]
    with pytest.raises(ToolMissing):
        run(Command(argv=["no-such-program"]))
    with pytest.raises(EngineKilled, match="sh was ended from outside"):
        run(Command(argv=["sh", "-c", "kill -KILL $$"]))


def test_whoever_steers_a_piece_of_work_pauses_and_stops_all_that_it_runs(tmp_path: Path) -> None:
    began, asked = tmp_path / "began", 0
    stop = False

    def is_paused() -> bool:
        nonlocal asked
        asked += 1
        assert asked > 3 or not began.exists(), "it began while it was to stand still"
        return asked <= 3

    touch = Command(argv=["touch", str(began)])
    with steered(lambda: stop, is_paused):
        run(touch)
        assert began.exists() and asked > 3
        stop = True
        with pytest.raises(Stopped):
            run(touch)
        with pytest.raises(Stopped):
            stand_by()
        # who says by whom it is stopped is asked instead
        assert run(Command(argv=["echo"], should_stop=lambda: False)).stdout
    assert run(Command(argv=["echo"])).stdout


def test_a_program_that_gets_no_more_memory_says_how_much_it_may_take() -> None:
    large = ["-f", "lavfi", "-i", "color=s=3840x2160:r=25", "-frames:v", "3", "-c:v", "libx264", "-f", "null", "-"]
    command = Command(argv=["ffmpeg", "-v", "error", *large])
    run(command)
    limit_memory(400 << 20)
    try:
        with pytest.raises(EngineOutOfMemory, match=r"may take 400 MiB.*engine_memory_mb"):
            run(command)
    finally:
        limit_memory(12 << 30)


@pytest.mark.parametrize("asked", [("-vf", "no-such-filter"), ("-c:v", "no-such-encoder")])
def test_an_engine_without_what_is_needed_says_what_it_is(asked: tuple[str, str]) -> None:
    argv = ["ffmpeg", "-v", "error", "-f", "lavfi", "-i", "testsrc=duration=0.1", *asked, "-f", "null", "-"]
    with pytest.raises(ToolMissing, match=rf"built without .*{asked[1]}.*rheon doctor"):
        run(Command(argv=argv))


def test_what_somebody_waits_for_goes_before_what_is_made_meanwhile() -> None:
    def niceness(*, gentle: bool) -> int:
        return int(run(Command(argv=["nice"], gentle=gentle)).stdout)

    own, made = niceness(gentle=False), niceness(gentle=True)
    with awaited():
        waited_for = niceness(gentle=True)
        with pytest.raises(Stopped), steered(lambda: True, lambda: False):
            niceness(gentle=True)
        assert niceness(gentle=False) == own
    assert own < waited_for < made == niceness(gentle=True)


@pytest.mark.parametrize("stopped", [True, False])
def test_the_whole_group_ends_when_it_is_stopped_or_takes_too_long(tmp_path: Path, stopped: bool) -> None:
    note = tmp_path / "grandchild"
    command = Command(
        argv=["sh", "-c", f"sleep 60 & echo $! > {note}; wait"],
        timeout_s=60 if stopped else 0.3,
        should_stop=lambda: stopped and note.exists(),
    )
    with pytest.raises(Stopped if stopped else EngineTimedOut):
        run(command)
    pid = int(note.read_text() or 0)
    for _ in range(50):
        state = _state(pid)
        if state in ("", "Z"):
            return
        time.sleep(0.1)
    pytest.fail("a grandchild was left running")


def test_what_is_paused_stands_still_and_its_time_does_not_run_out(tmp_path: Path) -> None:
    note, states, began_s = tmp_path / "pid", [], time.monotonic()

    def is_paused() -> bool:
        if not note.exists() or not note.read_text():
            return False
        states.append(_state(int(note.read_text())))
        return time.monotonic() - began_s < 2.5

    script = f"echo $$ > {note}; while :; do :; done & sleep 2.7; kill $!; echo done"
    clock = WorkClock(is_paused)
    done = run(Command(argv=["sh", "-c", script], timeout_s=2.0, is_paused=clock.is_paused))
    assert done.stdout == b"done\n"
    assert states[1:-2].count("T") > 10 and states[-1] != "T"
    assert 1.5 < clock.paused_s < 2.6


def test_what_stands_still_can_be_stopped(tmp_path: Path) -> None:
    began, asked = tmp_path / "began", iter([False, False, False, True])
    argv = ["sh", "-c", f"touch {began}; sleep 60"]
    began_s = time.monotonic()
    with pytest.raises(Stopped):
        run(Command(argv=argv, is_paused=began.exists, should_stop=lambda: began.exists() and next(asked)))
    assert time.monotonic() - began_s < 3.0, "it had to be ended for good"


@given(st.lists(st.tuples(st.floats(0, 10), st.booleans()), max_size=12))
def test_only_what_is_worked_counts(steps: list[tuple[float, bool]]) -> None:
    now_s, paused, worked_s = 0.0, False, 0.0
    clock = WorkClock(lambda: paused, lambda: now_s)
    for lasted_s, then in steps:
        now_s += lasted_s
        worked_s += 0.0 if paused else lasted_s
        assert clock.worked_s == pytest.approx(worked_s, abs=1e-6)
        paused = then
        assert clock.is_paused() is then
        assert clock.worked_s + clock.paused_s == pytest.approx(now_s, abs=1e-6)


def _state(pid: int) -> str:
    try:
        return Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0]
    except OSError:
        return ""


def test_a_feed_that_breaks_is_a_source_that_went_away() -> None:
    def feed() -> Iterator[bytes]:
        yield b"begin"
        raise OSError("gone")

    with pytest.raises(SourceMissing):
        run(Command(argv=["cat"], feed=feed))


def test_a_process_is_known_again_only_while_it_is_the_same() -> None:
    mine = process_identity()
    assert is_alive(mine)
    assert not is_alive(mine.partition(":")[0] + ":1")
    assert not is_alive("")


@pytest.mark.parametrize(
    ("said", "version"),
    [
        ("ffmpeg version 5.1.6-0+deb12u1 Copyright", (5, 1)),
        ("ffmpeg version n6.0", (6, 0)),
        ("ffmpeg version N-1-g", None),
    ],
)
def test_versions_are_read_from_what_the_engine_says(said: str, version: tuple[int, int] | None) -> None:
    assert parse_version(said) == version


def test_an_engine_that_is_missing_or_too_old_is_refused_with_what_to_do(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, media: Path
) -> None:
    monkeypatch.setenv("PATH", str(tmp_path))
    tools.require.cache_clear()
    try:
        with pytest.raises(EngineMissing, match="apt-get install ffmpeg"):
            read_source(media / "camera" / "Kite day.mp4")
        old = tmp_path / "ffprobe"
        old.write_text("#!/bin/sh\necho ffprobe version 3.4.8\n")
        old.chmod(0o755)
        with pytest.raises(EngineTooOld, match=r"ffmpeg 5.0 or newer"):
            tools.require("ffprobe")
    finally:
        tools.require.cache_clear()


PLAYLIST = "#EXTM3U\n#EXT-X-TARGETDURATION:10\n#EXTINF:10,\n{target}\n#EXT-X-ENDLIST\n"
CONCAT = "ffconcat version 1.0\nfile '{target}'\n"
SDP = "v=0\no=- 0 0 IN IP4 127.0.0.1\ns=x\nc=IN IP4 127.0.0.1\nt=0 0\nm=video 5004 RTP/AVP 96\n"


@pytest.mark.parametrize("text", [PLAYLIST, CONCAT, SDP])
@pytest.mark.parametrize("name", ["film.mkv", "film.mp4", "list.m3u8"])
def test_a_list_named_like_a_film_opens_nothing(tmp_path: Path, media: Path, text: str, name: str) -> None:
    bait = tmp_path / name
    bait.write_text(text.format(target=media / "camera" / "Kite day.mp4"))
    with pytest.raises((ForbiddenFormat, NotASource)):
        read_source(bait)
