"""Language tags: whatever a disc or file says, as BCP 47, and as a person says it."""

from __future__ import annotations

from collections.abc import Iterable
from functools import lru_cache

from ..catalogue import say

UNDETERMINED = "und"
_SHORT = {
    "a": "abefkmnrsvyz", "b": "aegimnors", "c": "aehorsuvy", "d": "aevz", "e": "elnostu", "f": "afijory",
    "g": "adlnuv", "h": "aeiortuyz", "i": "adegikostu", "j": "av", "k": "agijklmnorsuvwy", "l": "abginotuv",
    "m": "ghiklnrsty", "n": "abdeglnorvy", "o": "cjmrs", "p": "ailst", "q": "u", "r": "mnouw",
    "s": "acdegiklmnoqrstuvw", "t": "aeghiknorsty", "u": "gkrz", "v": "eio", "w": "ao", "x": "h", "y": "io",
    "z": "ahu",
}  # fmt: skip
SHORT = frozenset(first + second for first, seconds in _SHORT.items() for second in seconds)
"""The codes of ISO 639-1 that are BCP 47 tags as they stand: discs name their languages by them."""


@lru_cache(maxsize=512)
def to_bcp47(raw: str | None) -> str:
    """Normalise ``eng``, ``en``, ``por-BR`` to a BCP 47 tag; ``und`` for what is empty or not a language."""
    text = (raw or "").strip().replace("_", "-")
    if not text:
        return UNDETERMINED
    if text.lower() in SHORT:
        return text.lower()
    import langcodes  # noqa: PLC0415 - its tables take longer to load than a scan takes

    try:
        tag = langcodes.standardize_tag(text)
    except (ValueError, AttributeError):
        return UNDETERMINED
    return tag if langcodes.tag_is_valid(tag) else UNDETERMINED


def known_languages(tags: Iterable[str]) -> list[str]:
    """The tags that are languages, each once, in their order."""
    return [tag for tag in dict.fromkeys(map(to_bcp47, tags)) if tag != UNDETERMINED]


@lru_cache(maxsize=512)
def language_name(tag: str) -> str:
    """The English name of a tag: ``Spanish``; ``unnamed language`` for ``und``."""
    if tag == UNDETERMINED:
        return say("unnamed language")
    import langcodes  # noqa: PLC0415 - its tables take longer to load than a scan takes

    return langcodes.Language.get(tag).display_name()


def same_language(one: str, other: str) -> bool:
    """Whether two tags name the same language, whatever region or script they add."""
    return one != UNDETERMINED and one.split("-", maxsplit=1)[0] == other.split("-", maxsplit=1)[0]
