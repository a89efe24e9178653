"""What can be set of a picture's shape, also where nothing is made of it so far. Pure."""

from __future__ import annotations

from ...devices import DeviceProfile, Verdict, common_ground
from ...media import OutputSettings
from ..decisions import Case, Decision, explain
from ..decisions.picture import ASPECT, ROTATION, SCREEN_FIT
from ..decisions.picture.screen_fit import WAYS
from ..picture.video import copied
from ..plan import Plan
from ..request import PlanRequest

SHAPING = (ASPECT, ROTATION, SCREEN_FIT)


def shaping(request: PlanRequest, made: Plan) -> tuple[Decision, ...]:
    """The shape of a plan's picture, how it is turned and how it meets the screen; of what plays as it is, as it is."""
    title = request.title
    if made.settings is not None:
        keys = {kind.key for kind in SHAPING}
        return tuple(one for one in made.decisions if one.key in keys)
    if title.video is None or made.treatment is not Verdict.PLAYS:
        return ()
    profile = common_ground(request.devices, picture=True, sound=bool(title.audio))
    case = Case(
        title=title,
        made=OutputSettings(
            container=title.container,
            file_name="",
            video=copied(title.video).settings,
            audio=(),
            subtitles=(),
            duration_s=title.duration_s,
        ),
        pins=request.pins,
        balance=request.balance,
        languages=request.languages,
        file_system=profile.limits.file_system,
        reasons={},
        offers=ways_to_meet(profile),
    )
    return explain(case, SHAPING)


def ways_to_meet(profile: DeviceProfile) -> dict[str, tuple[str, ...]]:
    """The ways to meet a screen, where one is known."""
    return {SCREEN_FIT.key: tuple(WAYS) if profile.screen else ()}
