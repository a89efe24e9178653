"""Marks by which equal values are known again."""

from __future__ import annotations

import hashlib


def mark_of(*values: object) -> str:
    """A short text that is the same for equal frozen values, in every process, and differs for others."""
    return hashlib.blake2b(repr(values).encode(errors="surrogateescape"), digest_size=12).hexdigest()
