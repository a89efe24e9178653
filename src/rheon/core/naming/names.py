"""Names: from a disc's label to one for people, and to one that a file system takes."""

from __future__ import annotations

import itertools
import re
import unicodedata
from collections.abc import Sequence

LONGEST_STEM_BYTES = 180  # leaves room for a number, an extension and a temporary mark within 255 bytes
FORBIDDEN_BY_FILE_SYSTEM = {"fat32": '<>:"/\\|?*', "exfat": '<>:"/\\|?*', "ntfs": '<>:"/\\|?*', "posix": "/"}
DEVICE_NAMES = re.compile(r"^(con|prn|aux|nul|conin\$|conout\$|com[1-9¹²³]|lpt[1-9¹²³])(?=\.|$)", re.IGNORECASE)
"""Names that some systems keep for devices, whatever ending they have."""
UNSEEN = ("Cc", "Cs", "Zl", "Zp")
TURNING = re.compile("[\u061c\u200e\u200f\u202a-\u202e\u2066-\u2069\ufeff]")
"""Letters that turn the direction of reading (UAX #9): with them a name can show another ending than it has."""
PART_WORDS = re.compile(
    r"[\s._([-]*(?:part|disc|disk|cd|dvd|episode|extra|chapter|title|clip|no\.?)[\s._-]*$", re.IGNORECASE
)
LEAST_NAME = 3
SMALL_WORDS = frozenset({"a", "an", "and", "at", "by", "for", "in", "of", "on", "or", "the", "to"})


def display_name(label: str) -> str:
    """A disc label as a person would write it: ``MARRAM_NIGHTS`` → ``Marram Nights``; other names stay as they are."""
    text = re.sub(r"\s+", " ", label.replace("_", " ")).strip()
    if not text or text != text.upper() or not any(letter.isalpha() for letter in text):
        return text or "Untitled"
    words = text.lower().split(" ")
    return " ".join(word if index and word in SMALL_WORDS else _capital(word) for index, word in enumerate(words))


def _capital(word: str) -> str:
    return word.upper() if re.fullmatch(r"[sde]\d+", word) else word[:1].upper() + word[1:]


def join_name(names: Sequence[str]) -> str:
    """What several titles are called together: what their names begin with alike, else the first one's name."""
    letters = zip(*(name.casefold() for name in names), strict=False)
    alike = sum(1 for _ in itertools.takewhile(lambda some: len(set(some)) == 1, letters))
    words = names[0][:alike]
    if any(name[alike : alike + 1].isalnum() for name in names):
        # a word that goes on differently is none of the common ones
        words = re.sub(r"[^\W_]+$", "", words)
    words = PART_WORDS.sub("", words).rstrip(" -–,._([#")
    return words if len(words) >= LEAST_NAME else names[0]


def seen_text(text: str) -> str:
    """A text on one line, without what can't be seen."""
    return "".join(" " if unicodedata.category(letter) in UNSEEN else letter for letter in text)


def safe_stem(name: str, file_system: str = "posix") -> str:
    """The name as a file stem that the file system takes; never empty, hidden or over-long."""
    text = seen_text(TURNING.sub("", unicodedata.normalize("NFC", name)))
    for letter in FORBIDDEN_BY_FILE_SYSTEM.get(file_system, "/"):
        text = text.replace(letter, "'" if letter == '"' else "-")
    text = re.sub(r" +", " ", text).strip().lstrip(".").rstrip(". ").strip()
    text = text.encode()[:LONGEST_STEM_BYTES].decode(errors="ignore").rstrip(". ")
    return DEVICE_NAMES.sub(r"\1_", text) or "Untitled"
