"""The database file: which version it is of, copies of it, and putting one back."""

from __future__ import annotations

import contextlib
import fcntl
import json
import os
import re
import sqlite3
import time
from collections.abc import Iterator
from datetime import datetime
from importlib.util import find_spec
from pathlib import Path

from rheon.core.errors import BackupRefused, DatabaseNewer, InUse

SERVER = Path(__file__).resolve().parents[1]
OTHERS = {
    "contenttypes": "django.contrib.contenttypes",
    "sessions": "django.contrib.sessions",
    "django_tasks_database": "django_tasks_db",
}
NAME, COPIES, LOCK, PICTURES = "rheon.sqlite3", "backups", "serve.lock", "pictures"
KEPT_PICTURE = re.compile(r"[0-9a-f]{40}\.jpg")
"""A picture that somebody brought, in its folder of the state. Copies hold them in a table of their own."""
BEFORE = "before-migration-"
KEPT = 5

Migration = tuple[str, str]


def database_of(state: Path) -> Path:
    return state / NAME


def known_migrations() -> frozenset[Migration]:
    """Every migration that this Rheon knows, by app and name."""
    folders = {folder.parent.name: folder for folder in SERVER.glob("*/migrations")}
    for label, module in OTHERS.items():
        spec = find_spec(module)
        if spec and spec.origin:
            folders[label] = Path(spec.origin).parent / "migrations"
    return frozenset((label, path.stem) for label, folder in folders.items() for path in folder.glob("[0-9]*.py"))


def applied_migrations(path: Path) -> frozenset[Migration]:
    """What a database was brought to; empty where there is none yet. Raises ``BackupRefused`` where it is none."""
    if not path.exists() or not path.stat().st_size:
        return frozenset()
    try:
        with contextlib.closing(_open(path)) as db:
            tables = {name for (name,) in db.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
            if "django_migrations" not in tables:
                return frozenset()
            return frozenset(db.execute("SELECT app, name FROM django_migrations"))
    except sqlite3.DatabaseError as error:
        raise BackupRefused("{path} is no sound database: {error}.", path=path, error=error) from error


def check_version(path: Path) -> bool:
    """Whether a database has to be brought forward first. Raises ``DatabaseNewer`` where this Rheon is too old."""
    known, applied = known_migrations(), applied_migrations(path)
    apps = {label for label, _ in known}
    if newer := sorted(name for label, name in applied - known if label in apps):
        raise DatabaseNewer("{path} was written by a newer Rheon ({steps}).", path=path, steps=", ".join(newer[:3]))
    return bool(known - applied)


def hold_open(path: Path) -> sqlite3.Connection | None:
    """A connection to be kept for as long as the process lives, where there is a database.

    With it the journal stays in its place. Whoever opens a database first has to make one, and can't on a full disk.
    """
    if not applied_migrations(path):
        return None
    held = sqlite3.connect(path, timeout=20, check_same_thread=False)
    held.execute("PRAGMA journal_mode = WAL")
    held.execute("SELECT count(*) FROM sqlite_master").fetchone()
    return held


def back_up(source: Path, target: Path, pictures: Path | None = None) -> None:
    """Copy a database while it is in use, verified by opening the copy, with the pictures of a folder.

    Raises ``BackupRefused`` or ``OSError``.
    """
    if not source.exists():
        raise BackupRefused(
            "There is no database at {source}.", source=source, advice="Start Rheon once, or name its state folder."
        )
    unfinished = target.with_name(f".{target.name}.part")
    unfinished.unlink(missing_ok=True)
    unfinished.touch(mode=0o600)
    try:
        with contextlib.closing(_open(source)) as live, contextlib.closing(sqlite3.connect(unfinished)) as copy:
            live.backup(copy, pages=2000, sleep=0.01)
            copy.execute("PRAGMA journal_mode = DELETE")
            if pictures is not None:
                _put_in(copy, pictures)
        verify(unfinished)
        _to_disk(unfinished)
        unfinished.replace(target)
    except sqlite3.Error as error:
        raise BackupRefused("{source} could not be copied: {error}.", source=source, error=error) from error
    finally:
        unfinished.unlink(missing_ok=True)


def verify(path: Path) -> None:
    """Raises ``BackupRefused`` unless this is a sound database of a Rheon."""
    try:
        with contextlib.closing(_open(path)) as db:
            said = [line for (line,) in db.execute("PRAGMA integrity_check")]
    except sqlite3.DatabaseError as error:
        raise BackupRefused("{path} is no sound database: {error}.", path=path, error=error) from error
    if said != ["ok"]:
        raise BackupRefused("{path} is damaged: {reason}.", path=path, reason=said[0])
    if not any(label == "shelf" for label, _ in applied_migrations(path)):
        raise BackupRefused("{path} is no database of Rheon.", path=path)


def restore(source: Path, state: Path) -> Path | None:
    """Put a copy in the place of the database; returns where the one before was kept, if there was one.

    Raises ``BackupRefused``, ``DatabaseNewer``, ``InUse`` or ``OSError``; then nothing was changed.
    """
    verify(source)
    check_version(source)
    state.mkdir(parents=True, exist_ok=True, mode=0o700)
    with alone(state):
        place, kept = database_of(state), None
        if applied_migrations(place):
            kept = copy_name(state, "before-restore-")
            back_up(place, kept)
        fresh = place.with_name(f".{place.name}.restored")
        back_up(source, fresh)
        _take_out(fresh, state / PICTURES)
        for journal in (f"{place}-wal", f"{place}-shm"):
            Path(journal).unlink(missing_ok=True)
        fresh.replace(place)
        return kept


def _put_in(copy: sqlite3.Connection, pictures: Path) -> None:
    found = [path for path in pictures.glob("*.jpg") if KEPT_PICTURE.fullmatch(path.name)]
    if found:
        copy.execute("CREATE TABLE picture_kept (name TEXT PRIMARY KEY, data BLOB NOT NULL)")
        copy.executemany("INSERT INTO picture_kept VALUES (?, ?)", ((path.name, path.read_bytes()) for path in found))
        copy.commit()


def _take_out(database: Path, pictures: Path) -> None:
    """Put the pictures of a copy into their folder, where its titles find them from now on."""
    with contextlib.closing(sqlite3.connect(database)) as db:
        if not db.execute("SELECT 1 FROM sqlite_master WHERE name = 'picture_kept'").fetchone():
            return
        for name, data in db.execute("SELECT name, data FROM picture_kept").fetchall():
            if KEPT_PICTURE.fullmatch(name):
                pictures.mkdir(mode=0o700, exist_ok=True)
                (pictures / name).write_bytes(data)
                db.execute(
                    "UPDATE shelf_title SET cover_by_hand = json_set(cover_by_hand, '$.path', ?)"
                    " WHERE json_extract(cover_by_hand, '$.path') LIKE ?",
                    (str(pictures / name), f"%/{name}"),
                )
        db.execute("DROP TABLE picture_kept")
        db.commit()
        db.execute("VACUUM")
    _to_disk(database)


def keep_before_migration(state: Path) -> Path:
    """A copy of the database as it is; of such copies the newest ``KEPT`` stay."""
    target = copy_name(state, BEFORE)
    back_up(database_of(state), target)
    for old in sorted(target.parent.glob(f"{BEFORE}*.sqlite3"), key=lambda path: path.stat().st_mtime_ns)[:-KEPT]:
        old.unlink()
    return target


def copy_name(state: Path, kind: str) -> Path:
    """A name for a new copy in the state folder."""
    folder = state / COPIES
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    stem = f"{kind}{datetime.now():%Y-%m-%d-%H%M%S}"
    names = (folder / f"{stem}{'' if n == 1 else f'-{n}'}.sqlite3" for n in range(1, 1000))
    return next(path for path in names if not path.exists())


@contextlib.contextmanager
def alone(state: Path, *, patience_s: float = 0.0) -> Iterator[None]:
    """Nobody else starts Rheon on this state folder or replaces its database meanwhile. Raises ``InUse``."""
    state.mkdir(parents=True, exist_ok=True, mode=0o700)
    until = time.monotonic() + patience_s
    with (state / LOCK).open("a+") as lock:
        while True:
            try:
                fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
                break
            except BlockingIOError as error:
                if time.monotonic() > until:
                    lock.seek(0)
                    raise InUse(
                        "Rheon runs already on {state} (process {process}).",
                        state=state,
                        process=lock.read().strip() or "?",
                    ) from error
                time.sleep(0.05)
        lock.truncate(0)
        lock.write(str(os.getpid()))
        lock.flush()
        yield


def chosen_output(state: Path) -> Path | None:
    """Where files go, where the page chose that. Raises ``BackupRefused``."""
    for (text,) in _home(state, "SELECT outputs FROM home_home"):
        if chosen := json.loads(text):
            return Path(chosen[-1])
    return None


def has_passphrase(state: Path) -> bool:
    """Whether the page asks for one. Raises ``BackupRefused``."""
    return bool(_home(state, "SELECT 1 FROM home_home WHERE passphrase != ''"))


def _home(state: Path, query: str) -> list[tuple[str]]:
    """Asked without Django: it has to be known before anything starts."""
    place = database_of(state)
    if not any(label == "home" for label, _ in applied_migrations(place)):
        return []
    with contextlib.closing(_open(place)) as db:
        return db.execute(query).fetchall()


def _open(path: Path) -> sqlite3.Connection:
    """For reading; nothing is made where nothing is."""
    return sqlite3.connect(f"{path.resolve().as_uri()}?mode=ro", uri=True, timeout=20)


def _to_disk(path: Path) -> None:
    with path.open("rb") as handle:
        os.fsync(handle.fileno())
