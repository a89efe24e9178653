"""Noticing that somebody wrote to the database, whichever process it was."""

from __future__ import annotations

import sqlite3
import threading

from django.db import connection


class DatabaseWatch:
    """Asks SQLite's ``data_version`` on a connection of its own; on other databases everything counts as changed."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._closed = False
        self._connection: sqlite3.Connection | None = None
        self._version: int | None = None

    def changed(self) -> bool:
        """Whether anything was committed since the last call; true on the first."""
        if connection.vendor != "sqlite":
            return True
        with self._lock:
            return not self._closed and self._ask()

    def close(self) -> None:
        """A page may leave while a thread is still asking: closing under its hands would crash the whole process."""
        with self._lock:
            self._closed = True
            if self._connection is not None:
                self._connection.close()

    def _ask(self) -> bool:
        if self._connection is None:
            self._connection = sqlite3.connect(str(connection.settings_dict["NAME"]), check_same_thread=False)
        version = int(self._connection.execute("PRAGMA data_version").fetchone()[0])
        changed, self._version = version != self._version, version
        return changed
