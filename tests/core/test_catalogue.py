"""Another language is another catalogue: every sentence is looked up, and each of its places is filled."""

from __future__ import annotations

import ast
import gettext
import string
from collections.abc import Iterator
from pathlib import Path

import pytest

from rheon.core import errors
from rheon.core.analysis import Survey
from rheon.core.catalogue import later, say, say_count, spoken
from rheon.core.descriptions import abilities, heard_text, lines_text, picture_facts, settings_text
from rheon.core.devices import QUESTIONS, catalogue
from rheon.core.errors import NoSuchTitle, RheonError
from rheon.core.planning import DECISIONS, Balance, PlanRequest, SubtitleForm, plan, read_pins
from rheon.core.sources import read_source
from rheon.core.wording import consequence, rule_name, sentence
from rheon.core.wording.rules import CONSEQUENCES, RULE_NAMES
from rheon.core.wording.sentences import SENTENCES

SOURCE = Path(__file__).parents[2] / "src" / "rheon"
ERRORS = {name for name, kind in vars(errors).items() if isinstance(kind, type) and issubclass(kind, RheonError)}
SIGNS = set("0123456789×.,:+- ")


class Marked(gettext.NullTranslations):
    """A language that shows what went through the catalogue."""

    def gettext(self, message: str) -> str:
        return f"⟦{message}⟧"

    def ngettext(self, msgid1: str, msgid2: str, n: int) -> str:
        return f"⟦{msgid1 if n == 1 else msgid2}⟧"


def calls(names: set[str]) -> Iterator[tuple[str, ast.Call]]:
    for path in SOURCE.rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if isinstance(node, ast.Call):
                name = node.func.id if isinstance(node.func, ast.Name) else getattr(node.func, "attr", "")
                if name in names:
                    yield f"{path.relative_to(SOURCE)}:{node.lineno}", node


def places(text: str) -> set[str]:
    return {name for _, name, _, _ in string.Formatter().parse(text) if name is not None}


def filled(call: ast.Call) -> set[str] | None:
    """The names that are given; ``None`` where some come from elsewhere."""
    names = {keyword.arg for keyword in call.keywords}
    return None if None in names else {name for name in names if name}


def test_every_reason_has_a_sentence_and_every_sentence_a_reason() -> None:
    made = [
        part for _, call in calls({"Reason"}) for word in call.keywords if word.arg == "code" for part in [word.value]
    ]
    begun = {node.values[0] for part in made for node in ast.walk(part) if isinstance(node, ast.JoinedStr)}
    said = {
        node.value for part in made for node in ast.walk(part) if isinstance(node, ast.Constant) and node not in begun
    }
    assert len(said) > 50 and said <= set(SENTENCES)
    strings = {
        node.value
        for path in (SOURCE / "core").rglob("*.py")
        if "wording" not in path.parts
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8")))
        if isinstance(node, ast.Constant)
    }
    # what begins in the code and ends with a value
    ends = {f"subtitles_{form.value}" for form in SubtitleForm} | {f"fits_{side}" for side in ("screen", "decoder")}
    ends |= {f"title_{fault}" for fault in ("cut_off", "scrambled", "no_data")}
    assert ends <= set(SENTENCES)
    assert set(SENTENCES) <= strings | ends


def test_an_error_is_made_with_a_message_whose_places_its_facts_fill() -> None:
    seen = 0
    for where, call in calls(ERRORS - {"RheonError"} | {"Unreadable", "refuse"}):
        given = filled(call)
        if not call.args or given is None or where.startswith("server/api/"):
            continue
        assert isinstance(call.args[0], ast.Constant), f"{where}: a sentence that was made elsewhere can't be looked up"
        advice = next((keyword.value for keyword in call.keywords if keyword.arg == "advice"), ast.Constant(""))
        texts = [str(call.args[0].value)] + (
            [str(advice.value)] if isinstance(advice, ast.Constant) and advice.value else []
        )
        for text in texts:
            assert places(text) <= given, f"{where}: {text}"
        seen += 1
    assert seen > 120


def test_what_is_said_fills_just_its_places() -> None:
    seen = 0
    for where, call in calls({"say", "say_count"}):
        texts = [str(argument.value) for argument in call.args if isinstance(argument, ast.Constant)]
        given = filled(call)
        if given is None or not texts:
            continue
        named = set().union(*map(places, texts)) - ({"count"} if len(call.args) == 3 else set())
        assert named == given, f"{where}: {texts}"
        seen += 1
    assert seen > 150


def test_a_message_is_looked_up_then_filled_and_braces_in_values_mean_nothing() -> None:
    assert say("There is no chapter {number}.", number=7) == "There is no chapter 7."
    assert say_count("{count} line", "{count} lines", 1) == "1 line"
    assert say("{name} is not there any more.", name="{odd}") == "{odd} is not there any more."
    assert str(NoSuchTitle("{label} has no title {number}.", label="A {b}", number=3)).startswith(
        "A {b} has no title 3."
    )
    with spoken(Marked()):
        assert say("There is no chapter {number}.", number=7) == "⟦There is no chapter 7.⟧"
        assert say_count("{count} line", "{count} lines", 2) == "⟦2 lines⟧"
        error = NoSuchTitle("There is no chapter {number}.", number=7, advice="It has {count}.", count=6)
        assert error.message == "⟦There is no chapter 7.⟧ ⟦It has 6.⟧"
    assert error.message == "There is no chapter 7. It has 6."
    assert later("two") == "two"


@pytest.mark.parametrize("name", ["MARRAM_NIGHTS", "HERON_REACH", "camera/Kite day.mp4"])
def test_nothing_that_people_read_of_a_title_or_plan_goes_past_the_catalogue(media: Path, name: str) -> None:
    with spoken(Marked()):
        source = read_source(media / name)
        title = source.titles[0]
        said = [sentence(reason) for reason in title.reasons]
        said += [fact.text for fact in picture_facts(title, Survey()) if fact.topic != "⟦Codec⟧"]
        said += [text for track in title.audio if (text := heard_text(track, Survey()))]
        said += [text for track in title.subtitles if (text := lines_text(track, Survey()))]
        for device in catalogue().values():
            request = PlanRequest(
                title=title, devices=(device,), name="N", balance=Balance.EVEN, pins=read_pins({}), languages=("en",)
            )
            made = plan(request)
            said += [sentence(made.reason), *(sentence(decision.reason) for decision in made.decisions)]
            if made.settings and made.settings.subtitles:
                said.append(settings_text(made.settings).rpartition(" · ")[2])
    assert [text for text in said if "⟦" not in text and not set(text) <= SIGNS] == []
    assert len(said) > 500


def test_registries_are_said_by_the_catalogue() -> None:
    with spoken(Marked()):
        said = [rule_name(rule) for rule in RULE_NAMES]
        said += [consequence(rule, unsure=unsure) for rule in CONSEQUENCES for unsure in (True, False)]
        for device in list(catalogue().values())[:20]:
            lines = abilities(device)
            said += [text for line in lines for text in (line.topic, line.why) if text]
    assert [text for text in said if "⟦" not in text] == []


def test_every_message_is_in_the_template(media: Path) -> None:
    template = (SOURCE.parents[1] / "docs" / "messages.pot").read_text(encoding="utf-8").replace('"\n"', "")
    messages = [text for kind in DECISIONS.values() for text in (kind.label, kind.help)]
    messages += [text for question in QUESTIONS.values() for text in (question.text, question.help)]
    messages += [*RULE_NAMES.values(), *CONSEQUENCES.values(), NoSuchTitle.advice]
    assert [text for text in messages if text.replace('"', '\\"') not in template] == []
