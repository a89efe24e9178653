"""Which borders are cut away from the picture."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ...formats import is_text
from ...media import Borders, Reason, SubtitleStream, VideoStream, aspect_text
from ..decisions import PINNED
from ..decisions.picture import CROP
from ..request import PlanRequest

LEAST_SIDE = 64
FIELD_LINES = 4
"""Two lines of each field have one line of colour."""


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
            often_black=None,
        )


def crop_for(request: PlanRequest, drawn: SubtitleStream | None, *, of_fields: bool = False) -> Crop:
    """Black borders go, unless somebody said otherwise or subtitle pictures may stand in them.

    ``of_fields``: fields stay where they lie. Raises ``BadPin``.
    """
    video = request.title.video
    assert video is not None
    if (pinned := request.pins.of(CROP)) is not None:
        by_hand = _by_hand(video, pinned)
        return Crop(borders=on_fields(by_hand) if of_fields else by_hand, reason=PINNED)
    if video.borders is None:
        return Crop(borders=Borders(), reason=Reason(code="borders_unknown"))
    if not video.borders.any:
        return Crop(borders=Borders(), reason=_changing(video) or Reason(code="no_borders"))
    if not _enough_left(video, video.borders):
        return Crop(borders=Borders(), reason=Reason(code="little_left"))
    if drawn is not None and not is_text(drawn):
        return Crop(borders=Borders(), reason=Reason(code="subtitles_in_borders"))
    cut = on_fields(video.borders) if of_fields else video.borders
    return Crop(borders=cut, reason=_changing(video) or Reason(code="black_borders"))


def on_fields(cut: Borders) -> Borders:
    """In such steps that fields stay where they are."""
    return replace(cut, top=cut.top // FIELD_LINES * FIELD_LINES, bottom=cut.bottom // FIELD_LINES * FIELD_LINES)


def _changing(video: VideoStream) -> Reason | None:
    """That the picture changes its shape, where it does."""
    often = video.often_black
    if often is None:
        return None
    shapes = (
        Crop(borders=cut, reason=PINNED).applied(video).display_aspect for cut in (often, video.borders or Borders())
    )
    narrow, wide = map(aspect_text, shapes)
    return Reason(code="shape_changes", values={"narrow": narrow, "wide": wide})


def _by_hand(video: VideoStream, cut: Borders) -> Borders:
    if not _enough_left(video, cut):
        raise CROP.refuse("So little would be left of the picture that nothing could be seen.")
    return cut


def _enough_left(video: VideoStream, cut: Borders) -> bool:
    width, height = video.width - cut.left - cut.right, video.height - cut.top - cut.bottom
    return width >= LEAST_SIDE and height >= LEAST_SIDE
