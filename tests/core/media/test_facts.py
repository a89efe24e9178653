"""Measured and allowed values: words are made of them last, and what was stored is found again."""

from __future__ import annotations

import json

from hypothesis import given
from hypothesis import strategies as st

from rheon.core.devices import RuleResult
from rheon.core.media.documents import dump, load
from rheon.core.media.facts import Bound, Fact, Unit, as_fact

VALUES = st.integers(1, 10**9) | st.floats(0.001, 1e9) | st.text("abc", min_size=1)


@given(
    st.sampled_from(list(Unit)), st.lists(VALUES | st.text("abc", min_size=1), max_size=4), st.sampled_from(list(Bound))
)
def test_a_fact_is_the_same_after_it_was_stored(unit: Unit, values: list[float | str], bound: Bound) -> None:
    kept = Fact(unit=unit, values=tuple(values), bound=bound, slack=0.5)
    assert as_fact(json.loads(json.dumps(dump(kept)))) == kept
    rule = RuleResult(rule="length", part="file", ok=True, measured=kept, allowed=kept)
    assert load(RuleResult, json.loads(json.dumps(dump(rule)))) == rule
