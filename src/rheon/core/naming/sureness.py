"""How sure what names say is, and the values that several places propose."""

from __future__ import annotations

from ..media import Proposed, Reason

WRITTEN = 0.95
BY_PEOPLE = 0.9
LABEL = 0.85
ORDER = 0.75
SURE_FROM = 0.6
"""Below it, a person is asked to look."""
FIRST_SEASON = Proposed(value=1, reason=Reason(code="tag_first_season"), sure=0.5)
GUESSED = 0.3
