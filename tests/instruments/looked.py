"""What looking at a title finds, looked for once in each process: it takes seconds, and many tests begin with it."""

from __future__ import annotations

from rheon.core.analysis import Survey, survey_title, with_findings
from rheon.core.media import Title, mark_of

_known: dict[str, Survey] = {}


def survey_of(title: Title) -> Survey:
    """The survey of a title whose data no test changes."""
    mark = mark_of(title)
    if mark not in _known:
        _known[mark] = survey_title(title)
    return _known[mark]


def looked_over(title: Title) -> Title:
    """The title with what was found."""
    return with_findings(title, survey_of(title))
