"""What is wrong with a disc's titles, said once for all kinds of discs."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

from ..media import AudioStream, Gap, Problem, Reason, Title

TOUCHING_S = 0.05


@dataclass(slots=True)
class Problems:
    """What a scan finds wrong as it goes on."""

    found: list[Problem] = field(default_factory=list)

    def add(self, code: str, title: int | None, reason: str, /, **values: object) -> None:
        """``reason`` is one of ``wording.problems``; the title's number is among its values."""
        said = Reason(code=reason, values=values if title is None else {"title": title, **values})
        self.found.append(Problem(code=code, title=title, reason=said))

    def absent(self, title: int, track: AudioStream) -> None:
        """A track that is listed and of which the data hold nothing."""
        self.add("track_absent", title, "track_absent", number=track.index + 1, language=track.language)

    def judge(self, title: Title, *, scrambled: bool, empty: bool) -> Title:
        """The title with what keeps it from being converted, or with its holes told one by one.

        ``empty``: where picture and sound should be, samples show something else.
        """
        fault = "cut_off" if not title.size_bytes else "scrambled" if scrambled else "no_data" if empty else None
        if fault is not None:
            self.add(fault, title.number, fault)
            return replace(title, fault=fault, gaps=())
        for gap in title.gaps:
            self.add("unreadable", title.number, "unreadable", from_s=gap.from_s, to_s=gap.to_s)
        return title


def joined(gaps: Sequence[Gap]) -> tuple[Gap, ...]:
    """The gaps in order, those that touch as one."""
    made: list[Gap] = []
    for gap in gaps:
        if made and gap.from_s - made[-1].to_s < TOUCHING_S:
            made[-1] = Gap(from_s=made[-1].from_s, to_s=max(made[-1].to_s, gap.to_s))
        else:
            made.append(gap)
    return tuple(Gap(from_s=round(gap.from_s, 3), to_s=round(gap.to_s, 3)) for gap in made)
