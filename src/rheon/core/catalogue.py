"""What is said to a person goes through here, so that another language is a catalogue and no change of code.

A message is its English text with named places, as GNU gettext knows it (its manual, "The Format of PO Files").
``scripts/messages.py`` draws all of them into ``docs/messages.pot``.
"""

from __future__ import annotations

import gettext
from collections.abc import Iterator
from contextlib import contextmanager

_translations: gettext.NullTranslations = gettext.NullTranslations()


def say(message: str, /, **values: object) -> str:
    """The message in the language of this process, with its places filled."""
    text = _translations.gettext(message)
    return text.format_map(values) if values else text


def say_count(one: str, many: str, count: float, /, **values: object) -> str:
    """The form of a message for so many, which it knows as ``count``."""
    text = _translations.ngettext(one, many, count if isinstance(count, int) else round(count))
    return text.format_map({"count": count, **values})


def later(message: str, /) -> str:
    """Mark a message that is said later, with ``say``."""
    return message


@contextmanager
def spoken(translations: gettext.NullTranslations) -> Iterator[None]:
    """Say everything by another catalogue for a while."""
    global _translations  # noqa: PLW0603 - a process speaks one language
    before, _translations = _translations, translations
    try:
        yield
    finally:
        _translations = before
