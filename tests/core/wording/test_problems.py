"""What is wrong with a source is data until it is told."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

from rheon.core.media import Problem, Reason
from rheon.core.media.documents import dump, load
from rheon.core.wording import problem_text
from rheon.core.wording.problems import PROBLEMS

SOURCES = Path(__file__).parents[3] / "src" / "rheon" / "core" / "sources"
VALUES = {
    "title": 3, "name": "a.mkv", "error": "It is no film.", "reason": "denied", "lost_s": 12.4, "ends_s": 61.0,
    "promised_s": 90.0, "from_s": 4.0, "to_s": 9.0, "title_set": 2, "number": 1, "language": "fr", "streams": 2,
    "listed": "a.cue",
}  # fmt: skip


@pytest.mark.parametrize("reason", sorted(PROBLEMS))
def test_a_problem_is_a_sentence_after_it_was_stored(reason: str) -> None:
    problem = Problem(code="any", reason=Reason(code=reason, values=VALUES), title=3)
    text = problem_text(load(Problem, dump(problem)))
    assert text == problem_text(problem)
    assert text.endswith(".") and "{" not in text


def test_readers_find_no_problem_that_has_no_sentence() -> None:
    found = set()
    for path in SOURCES.rglob("*.py"):
        text = path.read_text(encoding="utf-8")
        found |= set(re.findall(r'(?:problems|self)\.add\(\s*[\w."]+,\s*[\w.]+,\s*"(\w+)"', text))
        found |= set(re.findall(r'_problem\(\s*[\w."]+,\s*"(\w+)"', text))
    assert found <= set(PROBLEMS)
    # the other three are those of a title's fault, by its name
    assert set(PROBLEMS) - found == {"cut_off", "scrambled", "no_data"}
