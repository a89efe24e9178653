"""An installation over the years: copies while it works, newer and older versions, and what the doctor sees."""

from __future__ import annotations

import contextlib
import gzip
import json
import os
import shutil
import sqlite3
import stat
import subprocess
import sys
import threading
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from tests.thorough import always
from typer.testing import CliRunner

from rheon.cli.main import build
from rheon.core.analysis import Survey
from rheon.core.errors import BackupRefused, DatabaseNewer, InUse
from rheon.core.media import CellData, Title
from rheon.core.media.documents import load
from rheon.core.planning import Plan, PlanRequest, SubtitleWish
from rheon.core.wording import sentence
from rheon.server.care import database, doctor
from rheon.server.care.database import alone, back_up, check_version, database_of, keep_before_migration, restore
from rheon.settings import load_settings

DATA = Path(__file__).parent / "data"
OLD = sorted(DATA.glob("database-*.sqlite3.gz"))
"""Of the last version that landed before this one: two sources, five titles, a done job and one that waits."""


@pytest.fixture
def state(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """A home of its own, with the older database in it."""
    for name in [name for name in os.environ if name.startswith("RHEON_")]:
        monkeypatch.delenv(name)
    monkeypatch.setenv("RHEON_STATE", str(tmp_path / "state"))
    monkeypatch.setenv("RHEON_OUTPUT", str(tmp_path / "output"))
    (tmp_path / "state").mkdir(mode=0o700)
    database_of(tmp_path / "state").touch(mode=0o600)
    database_of(tmp_path / "state").write_bytes(gzip.decompress(OLD[-1].read_bytes()))
    return tmp_path / "state"


def rheon(*arguments: str) -> tuple[int, str, str]:
    """A verb's exit status, and what it said on both of its outputs."""
    done = CliRunner().invoke(build(arguments), arguments)
    return done.exit_code, done.stdout, done.stderr


Rows = dict[str, list[dict[str, Any]]]


def rows(path: Path) -> Rows:
    """Every row of every table, but for Django's own lists."""
    with contextlib.closing(sqlite3.connect(path)) as db:
        db.row_factory = sqlite3.Row
        names = [name for (name,) in db.execute("SELECT name FROM sqlite_master WHERE type = 'table'")]
        own = [name for name in names if not name.startswith(("django_", "sqlite_"))]
        return {name: sorted(map(dict, db.execute(f'SELECT * FROM "{name}"')), key=repr) for name in own}


CALLED_NOW = {"done_s": "done", "words": "subtitles"}
TABLES_NOW = {"bench_setting": "bench_celloverride", "household_asking": "household_pairing"}
IN_DOCUMENTS = {
    '"clock": ': '"pts": ',
    '"words": ': '"subtitles": ',
    '"cadence": ': '"scan_type": ',
    '"effort": ': '"preset": ',
    '"effort_of_balance"': '"preset_of_balance"',
    '"words_': '"subtitles_',
}
SAID_ELSEWHERE = {("shelf_title", "chapter_names"), ("household_device", "column")}
"""What is said elsewhere now."""


def as_before(after: Rows, before: Rows) -> Rows:
    """What is there now of the rows and columns that were there then, by the names they had."""
    return {
        name: sorted(
            ({key: row[CALLED_NOW.get(key, key)] for key in found[0]} for row in after[TABLES_NOW.get(name, name)]),
            key=repr,
        )
        for name, found in kept_of(before).items()
    }


def kept_of(before: Rows) -> Rows:
    """The rows of then, without what is said elsewhere now; what their documents hold, by the names of today."""
    return {
        name: sorted(
            (
                {key: _named_today(said) for key, said in row.items() if (name, key) not in SAID_ELSEWHERE}
                for row in found
            ),
            key=repr,
        )
        for name, found in before.items()
        if found
    }


def _named_today(said: object) -> object:
    if isinstance(said, str) and said.startswith("{"):
        for old, now in IN_DOCUMENTS.items():
            said = said.replace(old, now)
    return said


def bring_forward(state: Path) -> None:
    """As the start of Rheon does, by the verb that starts nothing."""
    argv = [sys.executable, "-c", "from rheon.cli.main import main; main()", "passphrase", "--remove"]
    subprocess.run(argv, check=True, env={**os.environ, "RHEON_STATE": str(state)}, stdout=subprocess.DEVNULL)


@pytest.mark.parametrize("old", always(OLD[:1], of=OLD), ids=lambda path: path.name)
def test_an_older_database_is_brought_forward_with_every_row_and_a_copy_is_kept(state: Path, old: Path) -> None:
    database_of(state).write_bytes(gzip.decompress(old.read_bytes()))
    before = rows(database_of(state))
    assert {name: len(found) for name, found in before.items() if found and name != "home_home"} == {
        "shelf_source": 2, "shelf_title": 5, "shelf_finding": 1, "household_household": 1, "household_member": 2,
        "household_device": 6, "bench_pick": 2, "worklist_job": 2, "outbox_output": 1,
    }  # fmt: skip
    bring_forward(state)
    after = rows(database_of(state))
    assert as_before(after, before) == kept_of(before)
    # names by number have become whole lists
    named = {row["id"] for row in before["shelf_title"] if row.get("chapter_names", "{}") != "{}"}
    assert {row["id"] for row in after["shelf_title"] if row["chapters_by_hand"] is not None} == named
    assert [row["device_id"] for row in after["bench_target"]] == [row["id"] for row in before["household_device"]]
    (kept,) = (state / "backups").iterdir()
    assert rows(kept) == before
    assert stat.S_IMODE(kept.stat().st_mode) == 0o600
    with contextlib.closing(sqlite3.connect(database_of(state))) as db:
        # whoever used it before is not greeted as somebody new
        assert db.execute("SELECT set_up IS NOT NULL FROM home_home").fetchall() == [(1,)]
    assert not check_version(database_of(state))
    bring_forward(state)
    assert len(list((state / "backups").iterdir())) == 1


def test_shared_files_and_goals_become_targets_with_their_numbers_and_what_was_set(state: Path) -> None:
    """Ada's phone (1), a goal (2) and a tablet (3) are devices there, and so is what 1 and 3 share (4)."""
    database_of(state).write_bytes(gzip.decompress((DATA / "targets-2026-11-28.sqlite3.gz").read_bytes()))
    before = rows(database_of(state))
    bring_forward(state)
    after = rows(database_of(state))
    assert [row["id"] for row in after["household_device"]] == [1, 3]
    kinds = [(row["id"], row["kind"], row["device_id"], row["goal"]) for row in after["bench_target"]]
    assert sorted(kinds) == [
        (1, "device", 1, ""),
        (2, "goal", None, "sound-as-mp3"),
        (3, "device", 3, ""),
        (4, "shared", None, ""),
    ]
    assert {(row["target_id"], row["device_id"]) for row in after["bench_target_shares"]} == {(4, 1), (4, 3)}
    assert next(row["used"] for row in after["bench_target"] if row["id"] == 2) == 1
    was_set = {(row["device_id"], row["balance"], row["pins"]) for row in before["bench_setting"]}
    assert {(row["target_id"], row["balance"], row["pins"]) for row in after["bench_celloverride"]} == was_set
    assert len(was_set) == 3


def test_what_is_stored_under_older_names_is_read_under_those_of_today(state: Path) -> None:
    """Three titles that were looked at, a job that is done, pins of a cell, and a wish for subtitles."""
    database_of(state).write_bytes(gzip.decompress((DATA / "names-2026-11-28.sqlite3.gz").read_bytes()))
    before = rows(database_of(state))
    bring_forward(state)
    after = rows(database_of(state))
    titles = [load(Title, json.loads(row["document"])) for row in after["shelf_title"]]
    assert all(isinstance(title.data, CellData) and title.data.start_pts is not None for title in titles)
    surveys = [load(Survey, json.loads(row["survey"])) for row in after["shelf_title"]]
    assert all(survey.scan_type for survey in surveys) and sum(len(survey.subtitles) for survey in surveys) == 3
    (job,) = after["worklist_job"]
    made, asked = load(Plan, json.loads(job["plan_document"])), load(PlanRequest, json.loads(job["request_document"]))
    assert made.settings and made.settings.video
    assert (made.settings.video.preset, asked.pins.said["picture.preset"], asked.subtitles) == (
        "fast", "fast", SubtitleWish.ALWAYS,
    )  # fmt: skip
    assert all(sentence(decision.reason) for decision in made.decisions if decision.reason)
    assert [(row["target_id"], row["pins"]) for row in after["bench_celloverride"]] == [
        (row["target_id"], row["pins"]) for row in before["bench_setting"]
    ]
    assert [row["subtitles"] for row in after["household_device"]] == ["always", ""]
    assert '"words' not in str(after) and '"clock"' not in str(after)


def test_a_copy_made_while_somebody_writes_is_whole_and_is_put_back_elsewhere(state: Path, tmp_path: Path) -> None:
    place, stop = database_of(state), threading.Event()
    with contextlib.closing(sqlite3.connect(place)) as db:  # before the first copy, however slowly a thread starts
        db.execute("PRAGMA journal_mode = WAL")
        db.execute("CREATE TABLE pairs (one INTEGER, other INTEGER)")

    def write() -> None:
        with contextlib.closing(sqlite3.connect(place, timeout=20)) as db:
            number = 0
            while not stop.is_set():
                number += 1
                with db:  # both or neither
                    db.execute("INSERT INTO pairs VALUES (?, NULL)", (number,))
                    db.execute("UPDATE pairs SET other = one WHERE one = ?", (number,))

    writer = threading.Thread(target=write)
    writer.start()
    try:
        copies = [tmp_path / f"copy {number}.sqlite3" for number in range(5)]
        for copy in copies:
            status, said, _ = rheon("backup", str(copy))
            assert (status, said.strip()) == (0, str(copy))
    finally:
        stop.set()
        writer.join()
    counts = []
    for copy in copies:
        with contextlib.closing(sqlite3.connect(copy)) as db:
            counts.append(db.execute("SELECT count(*) FROM pairs").fetchone()[0])
            assert db.execute("SELECT count(*) FROM pairs WHERE other IS NOT one").fetchone() == (0,)
    assert counts == sorted(counts) and counts[-1] > 0
    other = tmp_path / "other home"
    assert restore(copies[-1], other) is None
    assert rows(database_of(other)) == rows(copies[-1])
    kept = restore(copies[0], other)
    assert kept and rows(kept) == rows(copies[-1]) and rows(database_of(other)) == rows(copies[0])
    assert not [path for path in other.iterdir() if path.name.startswith(".")]


def test_pictures_that_people_brought_are_in_a_copy_and_are_found_where_it_is_put_back(
    state: Path, tmp_path: Path
) -> None:
    name, pictures = f"{'0a' * 20}.jpg", state / "pictures"
    pictures.mkdir()
    (pictures / name).write_bytes(b"a picture")
    (pictures / "unfinished.part").write_bytes(b"none")
    with contextlib.closing(sqlite3.connect(database_of(state))) as db:
        # as a migrated one has it
        db.execute("ALTER TABLE shelf_title ADD COLUMN cover_by_hand text")
        db.execute(
            "UPDATE shelf_title SET cover_by_hand = ? WHERE id = 1",
            (f'{{"path": "{pictures / name}", "shape": "2:3"}}',),
        )
        db.execute("UPDATE shelf_title SET cover_by_hand = ? WHERE id = 2", ('{"path": null, "at_s": 4.0}',))
        db.commit()
    assert rheon("backup", str(tmp_path / "copy"))[0] == 0
    restore(tmp_path / "copy", tmp_path / "new")
    assert (tmp_path / "new" / "pictures" / name).read_bytes() == b"a picture"
    assert [path.name for path in (tmp_path / "new" / "pictures").iterdir()] == [name]
    titles = rows(database_of(tmp_path / "new"))["shelf_title"]
    assert sorted(str(title["cover_by_hand"]) for title in titles) == sorted(
        [f'{{"path":"{tmp_path / "new" / "pictures" / name}","shape":"2:3"}}', '{"path": null, "at_s": 4.0}']
        + ["None"] * (len(titles) - 2)
    )
    assert "picture_kept" not in rows(database_of(tmp_path / "new"))


def test_what_is_no_copy_is_not_put_back(state: Path, tmp_path: Path) -> None:
    before = rows(database_of(state))
    text, cut, strange, empty = (tmp_path / name for name in ("text", "cut", "strange", "empty"))
    text.write_text("this is no database" * 100)
    whole = database_of(state).read_bytes()
    cut.write_bytes(whole[: len(whole) // 2])
    empty.touch()
    with contextlib.closing(sqlite3.connect(strange)) as db:
        db.execute("CREATE TABLE cooking (recipe TEXT)")
    for bad in (text, cut, strange, empty, tmp_path / "nowhere"):
        status, _, said = rheon("restore", str(bad))
        assert (status, said.startswith("rheon: ")) == (2, True), bad
        assert rows(database_of(state)) == before


def test_an_older_rheon_leaves_a_newer_database_alone(state: Path) -> None:
    with contextlib.closing(sqlite3.connect(database_of(state))) as db, db:
        db.execute("INSERT INTO django_migrations (app, name, applied) VALUES ('shelf', '0999_of_the_future', '2031')")
    before = database_of(state).read_bytes()
    for verb in ("serve", "passphrase"):
        status, _, said = rheon(verb, "--port", "8699")
        assert status == 2
        assert "newer Rheon (0999_of_the_future)" in said
    with pytest.raises(DatabaseNewer):
        restore(database_of(state), state.parent / "other")
    assert database_of(state).read_bytes() == before


def test_while_rheon_runs_no_other_starts_on_its_state_and_nothing_is_put_back(state: Path, tmp_path: Path) -> None:
    back_up(database_of(state), tmp_path / "copy")
    with alone(state):
        with pytest.raises(InUse, match=f"process {os.getpid()}"):
            restore(tmp_path / "copy", state)
        status, _, said = rheon("serve", "--port", "8699")
        assert (status, f"process {os.getpid()}" in said) == (4, True)
    restore(tmp_path / "copy", state)


def test_copies_before_migrations_are_few(state: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(database, "KEPT", 2)
    made = [keep_before_migration(state) for _ in range(4)]
    own = state / "backups" / "rheon-by-hand.sqlite3"
    back_up(database_of(state), own)
    assert set((state / "backups").iterdir()) == {*made[-2:], own}


def test_a_disk_that_is_full_or_closed_leaves_no_half_copy(state: Path, tmp_path: Path) -> None:
    with pytest.raises(OSError):
        back_up(database_of(state), tmp_path / "no folder" / "copy")
    with pytest.raises(BackupRefused):
        back_up(tmp_path / "nothing", tmp_path / "copy")
    assert not [path for path in tmp_path.rglob("*") if "copy" in path.name]


@pytest.fixture
def seen(state: Path) -> Iterator[dict[str, list[doctor.Finding]]]:
    found: dict[str, list[doctor.Finding]] = {}
    for finding in doctor.look(load_settings()):
        found.setdefault(finding.about, []).append(finding)
    yield found


def test_the_doctor_finds_a_sound_installation_good(seen: dict[str, list[doctor.Finding]]) -> None:
    bad = [finding for found in seen.values() for finding in found if finding.state is doctor.State.BAD]
    assert bad == []
    assert set(seen) >= {"engine", "encoders", "filters", "fonts", "state", "database", "films", "output", "ports"}
    assert "brings it forward" in seen["database"][0].text


def test_the_doctor_sees_what_is_wrong_and_says_what_to_do(
    state: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    database_of(state).write_bytes(database_of(state).read_bytes()[:9000])
    (state / "secret-key").write_text("x")
    (state / "secret-key").chmod(0o644)
    monkeypatch.setattr(doctor, "engine_encoders", lambda: frozenset({"aac", "libx264"}))
    monkeypatch.setattr(doctor, "FONTS", (tmp_path / "no fonts",))
    monkeypatch.setenv("RHEON_MEDIA", str(tmp_path / "gone"))
    monkeypatch.setenv("RHEON_OUTPUT", "/proc/1/output")
    monkeypatch.setenv("RHEON_TYPO", "1")
    monkeypatch.setenv("PATH", f"{tmp_path / 'bin'}:{os.environ['PATH']}")
    findings = list(doctor.look(load_settings()))
    told = {(finding.state.value, finding.about) for finding in findings if finding.state is not doctor.State.GOOD}
    assert told >= {
        ("weak", "settings"), ("bad", "encoders"), ("weak", "fonts"), ("bad", "rights"), ("bad", "database"),
        ("weak", "films"), ("bad", "output"),
    }  # fmt: skip
    assert all(finding.remedy for finding in findings if finding.state is not doctor.State.GOOD)
    status, said, _ = rheon("doctor")
    assert status == 4
    assert "chmod go=" in said


def test_without_the_engine_the_doctor_goes_on(state: Path, monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    from rheon.core.engine import require

    require.cache_clear()
    monkeypatch.setenv("PATH", str(tmp_path))
    findings = list(doctor.look(load_settings()))
    require.cache_clear()
    assert [finding.state.value for finding in findings if finding.about == "engine"] == ["bad"]
    assert any(finding.about == "passphrase" for finding in findings)


@pytest.mark.skipif(not shutil.which("systemd-analyze"), reason="this machine has no systemd")
def test_the_unit_is_one_that_systemd_takes(tmp_path: Path) -> None:
    text = (Path(__file__).parents[2] / "docs" / "home-server" / "rheon.service").read_text()
    unit = tmp_path / "rheon.service"
    unit.write_text(text.replace("/opt/rheon/bin/rheon", "/bin/true"))
    done = subprocess.run(["systemd-analyze", "verify", str(unit)], capture_output=True, text=True, check=False)
    assert (done.returncode, done.stderr) == (0, "")


def test_the_settings_beside_it_are_ones_that_rheon_takes(monkeypatch: pytest.MonkeyPatch, state: Path) -> None:
    monkeypatch.delenv("RHEON_OUTPUT")
    monkeypatch.setenv("RHEON_CONFIG", str(Path(__file__).parents[2] / "docs" / "home-server" / "rheon.toml"))
    found = load_settings()
    assert found.settings.https and not found.settings.is_local and found.settings.output == Path("/srv/films/Rheon")
