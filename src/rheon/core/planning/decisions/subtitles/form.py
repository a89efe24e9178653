"""How subtitles go along."""

from __future__ import annotations

from ....formats import is_text
from ....media import Reason, WordsForm
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, Enumerated

TEXTS = {
    WordsForm.DRAWN: "drawn into the picture",
    WordsForm.TRACK: "a track to switch on",
    WordsForm.FILE: "a text file beside the film",
}


def _show(case: Case) -> Shown | None:
    if case.made.video is None or not case.made.subtitles:
        return None
    form = case.made.subtitles[0].form
    texts = all(is_text(case.title.subtitles[words.track]) for words in case.made.subtitles)
    able = [WordsForm.DRAWN, WordsForm.TRACK, *([WordsForm.FILE] if texts else [])]
    return Shown(
        value=form.value,
        text=TEXTS[form],
        reason=Reason(code=f"words_{form.value}"),
        choices=tuple(Choice(value=item.value, text=TEXTS[item]) for item in able),
    )


FORM = DecisionKind(
    key="words.form",
    label="Form",
    help="Subtitles drawn into the picture, as a track that can be switched on, or as a text file beside the film.",
    form=Enumerated(WordsForm, "form of subtitles"),
    show=_show,
)
