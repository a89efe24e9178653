"""Paths as text that can be stored, sent and shown, whatever bytes their names are made of."""

from __future__ import annotations

import os
from urllib.parse import quote, unquote_to_bytes, urlsplit

SCHEME = "file://"


def is_text(name: str) -> bool:
    """Whether a name is UTF-8; bytes that are none come as lone surrogates (PEP 383)."""
    return name.isascii() or not any("\ud800" <= letter <= "\udfff" for letter in name)


def shown(name: str) -> str:
    """The name for people: what is no text becomes U+FFFD."""
    return name if is_text(name) else "".join("�" if "\ud800" <= c <= "\udfff" else c for c in name)


def path_text(path: str) -> str:
    """The path as it is, or as a ``file:`` URI (RFC 8089) where its name is not UTF-8."""
    return path if is_text(path) else SCHEME + quote(os.fsencode(path))


def text_path(text: str) -> str:
    """The path that ``path_text`` made the text of."""
    return os.fsdecode(unquote_to_bytes(urlsplit(text).path)) if text.startswith(SCHEME) else text
