"""Which container a plan's file is: the one that leaves most streams untouched, the device's earlier choice first."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ...devices import DeviceProfile
from ...devices.rules import takes_video
from ...errors import PlanError
from ...formats import CONTAINERS, ENCODABLE_AUDIO, VIDEO_CODECS
from ...media import AudioStream, SubtitleForm
from ..decisions import Pins
from ..decisions.file import CONTAINER
from ..decisions.picture import CODEC
from ..decisions.picture.codec import COPY
from ..decisions.range import JOIN
from ..decisions.range.join import CONVERT
from ..decisions.range.join import COPY as AS_IT_IS
from ..decisions.sound import SOUND_CODEC
from ..decisions.subtitles import FORM
from ..picture.entries import encodable_entries, others
from ..request import PlanRequest
from ..sound.audio import copies, encodable_audio
from ..subtitles.choice import Chosen, holds_subtitles

REPAINTING = "picture"
"""The group of decisions that can't be kept by copying the picture."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Wish:
    """What goes into the output before it is known how."""

    profile: DeviceProfile
    audio: tuple[AudioStream, ...]
    subtitles: Chosen
    form: SubtitleForm
    has_picture: bool
    copy_picture: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class ContainerChoice:
    """The container chosen, and whether the picture goes in as it is."""

    container: str
    extension: str
    copy_picture: bool


def copies_picture(request: PlanRequest, profile: DeviceProfile) -> bool:
    """Whether the picture may stay as it is: the device takes it, and nothing was set that changes it."""
    video = request.title.video
    if video is None or not profile.video:
        return False
    changed = request.pins.in_group(REPAINTING)
    if _converts_parts(request):
        return False
    if request.cut_exactly:
        if request.pins.of(CODEC) == COPY:
            raise CODEC.refuse("A cut that is exact to the picture needs an encoded one; cut where streams can begin.")
        return False
    if _said_codec(request) == COPY:
        if not changed <= {CODEC.key}:
            raise CODEC.refuse("A picture that is copied can't be changed; take the other settings back.")
        return True
    if changed:
        return False
    limit = profile.limits.largest_file_bytes
    return (limit is None or request.title.size_bytes <= limit) and takes_video(video, profile)


def _said_codec(request: PlanRequest) -> str | None:
    """The picture's codec by hand: parts that are to follow each other as they are, are copied."""
    as_it_is = request.title.joined and request.pins.of(JOIN) == AS_IT_IS
    return COPY if as_it_is else request.pins.of(CODEC)


def _converts_parts(request: PlanRequest) -> bool:
    """Whether parts have to be converted to one form. Raises ``BadPin`` where that was ruled out by hand."""
    if not request.title.joined:
        return False
    wish = request.pins.of(JOIN)
    if request.title.parts_agree and not request.range.kept:
        return wish == CONVERT
    if wish == AS_IT_IS:
        raise JOIN.refuse("These parts can't follow each other as they are: they have to be converted to one form.")
    if request.pins.of(CODEC) == COPY:
        raise CODEC.refuse("These parts can't follow each other as they are: they have to be converted to one form.")
    return True


def choose_container(wish: Wish, request: PlanRequest) -> ContainerChoice:
    """Raises ``PlanError`` where no container serves, ``BadPin`` where the pinned one can't hold what was set."""
    best: tuple[int, ContainerChoice] | None = None
    for container, extension in _candidates(wish, request):
        kept = _kept(wish, request, container)
        if kept is not None and (best is None or kept[0] > best[0]):
            best = (kept[0], ContainerChoice(container=container, extension=extension, copy_picture=kept[1]))
    if best is not None:
        return best[1]
    if (pinned := request.pins.of(CONTAINER)) is not None:
        label = CONTAINERS[pinned.container].label
        raise CONTAINER.refuse("{container} can't hold what was set for picture, sound or subtitles.", container=label)
    raise PlanError("No container of the device can hold what Rheon would make.")


def _candidates(wish: Wish, request: PlanRequest) -> Iterator[tuple[str, str]]:
    """(container, extension): the pinned one, else the device's, and where something set by hand needs another, all."""
    pinned = request.pins.of(CONTAINER)
    own = [(entry.format, entry.extension) for entry in wish.profile.containers]
    if pinned is not None:
        usual = next((known for name, known in own if name == pinned.container), CONTAINERS[pinned.container].extension)
        yield pinned.container, pinned.extension or usual
        return
    yield from own
    if _needs_another(request.pins):
        known = {name for name, _ in own}
        yield from ((name, holds.extension) for name, holds in CONTAINERS.items() if name not in known)


def _needs_another(pins: Pins) -> bool:
    """Whether something was set by hand that the device's own containers may not hold."""
    return CODEC in pins or SOUND_CODEC in pins or FORM in pins


def _kept(wish: Wish, request: PlanRequest, container: str) -> tuple[int, bool] | None:
    """How much stays untouched in this container, and whether the picture does; ``None`` where it can't serve."""
    if wish.has_picture and not holds_subtitles(wish.subtitles, wish.form, container):
        return None
    picture = _picture_kept(wish, request, container)
    sound = _sound_kept(wish, request, container)
    if picture is None or sound is None:
        return None
    known = any(entry.format == container for entry in wish.profile.containers)
    return 4 * known + 2 * picture + sound, picture


def _picture_kept(wish: Wish, request: PlanRequest, container: str) -> bool | None:
    if not wish.has_picture:
        return False
    holds = CONTAINERS[container]
    codec = _said_codec(request)
    if wish.copy_picture and _holds_picture(request, container):
        return True
    if codec == COPY:
        return None
    if codec is not None:
        return False if codec in holds.video else None
    by_hand = CONTAINER in request.pins and others(container)
    return False if by_hand or encodable_entries(wish.profile, container) else None


def _sound_kept(wish: Wish, request: PlanRequest, container: str) -> bool | None:
    if not wish.audio:
        return False
    if all(copies(track, request, wish.profile, container) for track in wish.audio):
        return True
    codec = request.pins.of(SOUND_CODEC)
    if codec == COPY:
        return None
    if codec is not None:
        return False if codec in CONTAINERS[container].audio else None
    by_hand = CONTAINER in request.pins
    by_hand = by_hand and bool(CONTAINERS[container].audio & ENCODABLE_AUDIO)
    return False if by_hand or encodable_audio(wish.profile, container) else None


def _holds_picture(request: PlanRequest, container: str) -> bool:
    title, holds = request.title, CONTAINERS[container]
    video = title.video
    if (title.joined and not holds.keeps_start) or (video and video.rotation and not holds.turns):
        return False
    if request.range.middles and (video is None or container not in VIDEO_CODECS[video.codec].spliced_in):
        return False
    return video is not None and video.codec in holds.video and (holds.own_times or not video.variable_rate)
