"""Which borders are cut away from the picture."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace

from ..errors import BadPin
from ..formats import is_text
from ..media import Borders, Reason, SubtitleStream, VideoStream
from .plan import Choice, Decision, PlanRequest

KEY = "picture.crop"
LEAST_SIDE = 64
AUTOMATIC, NONE = "auto", "none"


@dataclass(frozen=True, slots=True, kw_only=True)
class Crop:
    """What is cut away, and why that or nothing."""

    borders: Borders
    reason: Reason

    def applied(self, video: VideoStream) -> VideoStream:
        """The picture that is left, for everything that is computed from its size."""
        cut = self.borders
        return replace(
            video,
            width=video.width - cut.left - cut.right,
            height=video.height - cut.top - cut.bottom,
            borders=None,
        )


def crop_for(request: PlanRequest, drawn: SubtitleStream | None) -> Crop:
    """Black borders go, unless somebody said otherwise or subtitle pictures may stand in them. Raises ``BadPin``."""
    video = request.title.video
    assert video is not None
    pinned = request.pins.get(KEY)
    if pinned is not None and pinned != AUTOMATIC:
        return Crop(borders=_by_hand(video, pinned), reason=Reason(code="pinned"))
    if video.borders is None:
        return Crop(borders=Borders(), reason=Reason(code="borders_unknown"))
    if not video.borders.any:
        return Crop(borders=Borders(), reason=Reason(code="no_borders"))
    if not _enough_left(video, video.borders):
        return Crop(borders=Borders(), reason=Reason(code="little_left"))
    if video.rotation:
        return Crop(borders=Borders(), reason=Reason(code="borders_of_turned"))
    if drawn is not None and not is_text(drawn):
        return Crop(borders=Borders(), reason=Reason(code="words_in_borders"))
    return Crop(borders=video.borders, reason=Reason(code="black_borders"))


def crop_decision(request: PlanRequest, crop: Crop) -> Decision:
    video = request.title.video
    found = video.borders if video else None
    choices = [Choice(value=AUTOMATIC, text="as proposed"), Choice(value=NONE, text="nothing")]
    if found is not None and found.any:
        choices.insert(1, Choice(value=_value(found), text=crop_text(found)))
    return Decision(
        key=KEY,
        value=_value(crop.borders) if crop.borders.any else NONE,
        text=crop_text(crop.borders),
        reason=crop.reason,
        pinned=request.pins.get(KEY, AUTOMATIC) != AUTOMATIC,
        choices=tuple(choices),
    )


def crop_text(cut: Borders) -> str:
    """``60 lines above, 60 below``; ``nothing``."""
    sides = ((cut.top, "above"), (cut.bottom, "below"), (cut.left, "left"), (cut.right, "right"))
    said = [f"{count} {side}" for count, side in sides if count]
    return ", ".join(said) if said else "nothing"


def _value(cut: Borders) -> str:
    return f"{cut.top},{cut.bottom},{cut.left},{cut.right}"


def _by_hand(video: VideoStream, pinned: str) -> Borders:
    if pinned == NONE:
        return Borders()
    if not re.fullmatch(r"\d{1,4}(,\d{1,4}){3}", pinned):
        raise BadPin(f"“{pinned}” is no crop: say lines above, below, left and right, as in 60,60,0,0.", pin=KEY)
    top, bottom, left, right = (int(part) // 2 * 2 for part in pinned.split(","))
    cut = Borders(top=top, bottom=bottom, left=left, right=right)
    if not _enough_left(video, cut):
        raise BadPin("So little would be left of the picture that nothing could be seen.", pin=KEY)
    return cut


def _enough_left(video: VideoStream, cut: Borders) -> bool:
    width, height = video.width - cut.left - cut.right, video.height - cut.top - cut.bottom
    return width >= LEAST_SIDE and height >= LEAST_SIDE
