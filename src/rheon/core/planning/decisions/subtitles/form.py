"""How subtitles go along."""

from __future__ import annotations

from ....catalogue import later, say
from ....formats import is_text
from ....media import Reason, SubtitleForm
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, Enumerated

TEXTS = {
    SubtitleForm.DRAWN: later("drawn into the picture"),
    SubtitleForm.TRACK: later("a track to switch on"),
    SubtitleForm.FILE: later("a text file beside the film"),
}


def _show(case: Case) -> Shown | None:
    if case.made.video is None or not case.made.subtitles:
        return None
    form = case.made.subtitles[0].form
    texts = all(is_text(case.title.subtitles[subtitle.track]) for subtitle in case.made.subtitles)
    able = [SubtitleForm.DRAWN, SubtitleForm.TRACK, *([SubtitleForm.FILE] if texts else [])]
    return Shown(
        value=form.value,
        text=say(TEXTS[form]),
        reason=Reason(code=f"subtitles_{form.value}"),
        choices=tuple(Choice(value=item.value, text=say(TEXTS[item])) for item in able),
    )


FORM = DecisionKind(
    key="subtitles.form",
    label="Form",
    help="Subtitles drawn into the picture, as a track that can be switched on, or as a text file beside the film.",
    form=Enumerated(SubtitleForm, "form of subtitles"),
    show=_show,
)
