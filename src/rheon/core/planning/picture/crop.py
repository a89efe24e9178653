"""Which borders are cut away from the picture."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ...formats import is_text
from ...media import Borders, Reason, SubtitleStream, VideoStream
from ..decisions import PINNED
from ..decisions.picture import CROP
from ..request import PlanRequest

LEAST_SIDE = 64


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
    if (pinned := request.pins.of(CROP)) is not None:
        return Crop(borders=_by_hand(video, pinned), reason=PINNED)
    if video.borders is None:
        return Crop(borders=Borders(), reason=Reason(code="borders_unknown"))
    if not video.borders.any:
        return Crop(borders=Borders(), reason=Reason(code="no_borders"))
    if not _enough_left(video, video.borders):
        return Crop(borders=Borders(), reason=Reason(code="little_left"))
    if video.rotation:
        return Crop(borders=Borders(), reason=Reason(code="borders_of_turned"))
    if drawn is not None and not is_text(drawn):
        return Crop(borders=Borders(), reason=Reason(code="subtitles_in_borders"))
    return Crop(borders=video.borders, reason=Reason(code="black_borders"))


def _by_hand(video: VideoStream, cut: Borders) -> Borders:
    if not _enough_left(video, cut):
        raise CROP.refuse("So little would be left of the picture that nothing could be seen.")
    return cut


def _enough_left(video: VideoStream, cut: Borders) -> bool:
    width, height = video.width - cut.left - cut.right, video.height - cut.top - cut.bottom
    return width >= LEAST_SIDE and height >= LEAST_SIDE
