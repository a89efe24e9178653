"""What is wrong with a disc's titles, said once for all kinds of discs."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

from ..media import Gap, Problem, Title
from ..wording import gap_text

TOUCHING_S = 0.05
SAID = {
    "cut_off": "its data are missing. Copy the disc or image again to get it.",
    "scrambled": "its data is scrambled. Rheon only works with material that is not, and stops here.",
    "no_data": "where its picture and sound should be there is something else. Copy the disc again.",
}


@dataclass(slots=True)
class Problems:
    """What a scan finds wrong as it goes on."""

    found: list[Problem] = field(default_factory=list)

    def add(self, code: str, title: int | None, message: str) -> None:
        self.found.append(Problem(code=code, title=title, message=message))

    def judge(self, title: Title, *, scrambled: bool, empty: bool) -> Title:
        """The title with what keeps it from being converted, or with its holes told one by one.

        ``empty``: where picture and sound should be, samples show something else.
        """
        fault = "cut_off" if not title.size_bytes else "scrambled" if scrambled else "no_data" if empty else None
        if fault is not None:
            self.add(fault, title.number, f"Title {title.number} can't be converted: {SAID[fault]}")
            return replace(title, fault=fault, gaps=())
        for gap in title.gaps:
            self.add("unreadable", title.number, unreadable(title.number, gap))
        return title

    def cut_off(self, title: int, what: str) -> None:
        """Part of a title is missing; the rest of it is there."""
        self.add("cut_off", title, f"Title {title}: {what}. What is there can be converted.")


def unreadable(title: int, gap: Gap) -> str:
    """What is said of a hole: how long it is and where."""
    return f"Title {title}: {gap_text(gap)}. The rest can be converted."


def joined(gaps: Sequence[Gap]) -> tuple[Gap, ...]:
    """The gaps in order, those that touch as one."""
    made: list[Gap] = []
    for gap in gaps:
        if made and gap.from_s - made[-1].to_s < TOUCHING_S:
            made[-1] = Gap(from_s=made[-1].from_s, to_s=max(made[-1].to_s, gap.to_s))
        else:
            made.append(gap)
    return tuple(Gap(from_s=round(gap.from_s, 3), to_s=round(gap.to_s, 3)) for gap in made)
