"""Names inside stored documents, brought forward by migrations when the code calls them something else."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any


def renamed(stored: Any, keys: Mapping[str, str], codes: Mapping[str, str]) -> Any:
    """The JSON value with its keys, and the values of ``code`` in it, under their new names; all else as it is."""
    if isinstance(stored, list):
        return [renamed(each, keys, codes) for each in stored]
    if not isinstance(stored, dict):
        return stored
    return {
        keys.get(key, key): codes.get(value, value)
        if key == "code" and isinstance(value, str)
        else renamed(value, keys, codes)
        for key, value in stored.items()
    }


def rename_stored(rows: Any, fields: tuple[str, ...], keys: Mapping[str, str], codes: Mapping[str, str]) -> None:
    """Bring JSON fields of all rows of a manager forward; rows without an old name are left alone."""
    for row in rows.only("pk", *fields).iterator():
        before = {field: getattr(row, field) for field in fields}
        after = {field: renamed(value, keys, codes) for field, value in before.items()}
        if after != before:
            rows.filter(pk=row.pk).update(**after)
