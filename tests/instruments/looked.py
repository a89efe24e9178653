"""What looking at a title finds, looked for once: it takes seconds, and many tests begin with it.

What was found in the demo's titles is kept, for both processes that run the tests and for the next run.
"""

from __future__ import annotations

import functools
import hashlib
import json
from collections.abc import Callable
from pathlib import Path

import pytest

from rheon.core.analysis import Survey, sample_pictures, survey_title, with_findings
from rheon.core.media import Samples, Title, mark_of
from rheon.core.media.documents import dump, load

from .kept import ROOT, once

DEMO = ROOT / "demo-data" / "media"
_known: dict[str, Survey] = {}


def survey_of(title: Title) -> Survey:
    """The survey of a title whose data no test changes."""
    mark = mark_of(title)
    if mark not in _known:
        _known[mark] = kept_survey(title)
    return _known[mark]


def looked_over(title: Title) -> Title:
    """The title with what was found."""
    return with_findings(title, survey_of(title))


def kept_survey(title: Title) -> Survey:
    """The survey of a title; of the demo's, which no test changes, the one that was kept."""
    return load(Survey, _kept("survey", lambda: dump(survey_title(title)), title))


def kept_samples(title: Title) -> Samples | None:
    """The samples of a title, kept as its survey is."""

    def sampled() -> object:
        found = sample_pictures(title)
        return found and dump(found)

    found = _kept("samples", sampled, title)
    return load(Samples, found) if found else None


def look_once(monkeypatch: pytest.MonkeyPatch, *places: str) -> None:
    """Have those who look at titles, ``module.survey_title`` or ``module.sample_pictures``, look at the demo's once."""
    for place in places:
        monkeypatch.setattr(place, {"survey_title": kept_survey, "sample_pictures": kept_samples}[place.split(".")[-1]])


def _kept(kind: str, look: Callable[[], object], title: Title) -> object:
    if f"{DEMO}/" not in repr(title):
        return look()

    def write(path: Path) -> Path:
        path.write_text(json.dumps(look()))
        return path

    return json.loads(once(f"{kind}-{mark_of(title)}-{_code()}.json", write).read_text())


@functools.cache
def _code() -> str:
    """A mark of the code that looks: what older code found does not count."""
    code = sorted((ROOT / "src" / "rheon" / "core").rglob("*.py"))
    return hashlib.sha256(b"".join(path.read_bytes() for path in code)).hexdigest()[:12]
