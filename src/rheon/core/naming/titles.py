"""What titles are called before anybody names them."""

from __future__ import annotations

from collections.abc import Sequence

from ..media import Role, Title
from .names import display_name


def title_names(label: str, titles: Sequence[Title]) -> dict[int, str]:
    """A name for each title number: a file's own comes first; on a disc the film takes the source's, the others their
    role and count.
    """
    base = display_name(label)
    if len(titles) == 1:
        return {titles[0].number: titles[0].name or base}
    counts: dict[Role, int] = {}
    names = {}
    for title in titles:
        counts[title.role] = counts.get(title.role, 0) + 1
        words = {Role.PLAY_ALL: "all episodes", Role.DUPLICATE: "copy"}.get(title.role, title.role.value)
        called = base if title.role is Role.FEATURE else f"{base}, {words} {counts[title.role]}"
        names[title.number] = title.name or called
    return names
