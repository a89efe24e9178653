"""Lengths, and what is missing of them, as people say it."""

from __future__ import annotations

from ..media import Gap, Title


def duration_text(seconds: float) -> str:
    """``1 h 32 min`` from an hour on, ``4:07`` below."""
    whole = round(seconds)
    if whole >= 3600:
        return f"{whole // 3600} h {whole % 3600 // 60} min"
    return f"{whole // 60}:{whole % 60:02}"


def ends_early_text(ends_s: float, promised_s: float) -> str:
    """``ends at 0:06 of 0:12: the rest of it is missing``."""
    return f"ends at {duration_text(ends_s)} of {duration_text(promised_s)}: the rest of it is missing"


def gap_text(gap: Gap) -> str:
    """``8 s could not be read at 1:20``."""
    lost_s = gap.to_s - gap.from_s
    lost = "part of a second" if lost_s < 0.5 else f"{lost_s:.0f} s"
    return f"{lost} could not be read at {duration_text(gap.from_s)}"


def missing_sentences(title: Title) -> tuple[str, ...]:
    """What is missing of a title, a sentence each: its end, and stretches that can't be read."""
    said = []
    if title.promised_s is not None:
        lost = ends_early_text(title.duration_s, title.promised_s)
        said.append(f"It {lost}, and you will be asked before it is made.")
    return (*said, *(f"{gap_text(gap)}." for gap in title.gaps))
