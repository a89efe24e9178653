"""Whether a file gets artwork, which and where. Pure."""

from __future__ import annotations

from dataclasses import dataclass

from ...devices import DeviceProfile
from ...formats import CONTAINERS
from ...media import Cover, CoverPlace, Reason, Shape, Title
from ..decisions import PINNED
from ..decisions.file import ARTWORK
from ..request import PlanRequest


@dataclass(frozen=True, slots=True, kw_only=True)
class CoverPlan:
    """What a file is known by, where that goes, and why; ``cover`` is ``None`` where it goes nowhere."""

    cover: Cover | None = None
    place: CoverPlace = CoverPlace.NONE
    reason: Reason


def plan_cover(request: PlanRequest, profile: DeviceProfile, container: str) -> CoverPlan:
    """Raises ``BadPin`` where artwork can't go where somebody wants it."""
    title = request.title
    said, holds = request.pins.of(ARTWORK), CONTAINERS[container]
    if said is not None:
        wanted, cover = CoverPlace(said), usual_cover(title)
        if wanted.inside and not holds.cover:
            raise ARTWORK.refuse("{container} holds no artwork.", container=holds.label)
        if wanted is CoverPlace.NONE or cover is None:
            return CoverPlan(reason=PINNED)
        return CoverPlan(cover=cover, place=wanted, reason=PINNED)
    cover = title.cover or _came_along(title)
    if cover is None:
        return CoverPlan(reason=Reason(code="artwork_not_asked"))
    if not holds.cover:
        return CoverPlan(reason=Reason(code="artwork_not_held", values={"container": holds.label}))
    if profile.artwork_px is None:
        return CoverPlan(reason=Reason(code="artwork_not_shown"))
    return CoverPlan(cover=cover, place=CoverPlace.INSIDE, reason=_which(cover))


def usual_cover(title: Title) -> Cover | None:
    """What somebody chose, else what came with the title, else the best of its frames."""
    return title.cover or _came_along(title) or (Cover() if title.video else None)


def _came_along(title: Title) -> Cover | None:
    """The artwork of the source, in the shape that is usual for what it is."""
    if title.artwork is None:
        return None
    return Cover(path=title.artwork.path, stream=title.artwork.stream, shape=Shape.of(pictures=title.video is not None))


def _which(cover: Cover) -> Reason:
    if cover.path:
        return Reason(code="artwork_own")
    if cover.at_s is None:
        return Reason(code="artwork_to_be_found")
    return Reason(code="artwork_frame", values={"at_s": cover.at_s})
