"""Language tags: whatever a disc or file says, as BCP 47, and as a person says it."""

from __future__ import annotations

from functools import lru_cache

import langcodes

UNDETERMINED = "und"


@lru_cache(maxsize=512)
def to_bcp47(raw: str | None) -> str:
    """Normalise ``eng``, ``en``, ``por-BR`` to a BCP 47 tag; ``und`` for what is empty or not a language."""
    text = (raw or "").strip().replace("_", "-")
    if not text:
        return UNDETERMINED
    try:
        tag = langcodes.standardize_tag(text)
    except (ValueError, AttributeError):
        return UNDETERMINED
    return tag if langcodes.tag_is_valid(tag) else UNDETERMINED


@lru_cache(maxsize=512)
def language_name(tag: str) -> str:
    """The English name of a tag: ``Spanish``; ``unnamed language`` for ``und``."""
    return "unnamed language" if tag == UNDETERMINED else langcodes.Language.get(tag).display_name()


def same_language(one: str, other: str) -> bool:
    """Whether two tags name the same language, whatever region or script they add."""
    return one != UNDETERMINED and one.split("-", maxsplit=1)[0] == other.split("-", maxsplit=1)[0]
