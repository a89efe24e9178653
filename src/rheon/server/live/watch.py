"""Noticing that somebody wrote to the database, whichever process it was."""

from __future__ import annotations

import sqlite3

from django.db import connection


class DatabaseWatch:
    """Asks SQLite's ``data_version`` on a connection of its own; on other databases everything counts as changed.

    Used by one thread, from its first call to ``close``.
    """

    def __init__(self) -> None:
        self._connection: sqlite3.Connection | None = None
        self._version: int | None = None

    def changed(self) -> bool:
        """Whether anything was committed since the last call; true on the first."""
        if connection.vendor != "sqlite":
            return True
        if self._connection is None:
            self._connection = sqlite3.connect(str(connection.settings_dict["NAME"]))
        version = int(self._connection.execute("PRAGMA data_version").fetchone()[0])
        changed, self._version = version != self._version, version
        return changed

    def forget(self) -> None:
        """Let the next call be true again: what changed was not told."""
        self._version = None

    def close(self) -> None:
        if self._connection is not None:
            self._connection.close()
            self._connection = None
