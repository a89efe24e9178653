"""Tags of the planned file, why each is what it is, and the name that follows from them. Pure."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from ...devices import DeviceProfile
from ...media import AudioSettings, Proposed, Reason, Tags, language_name, tags_of
from ...naming.names import safe_stem
from ...naming.patterns import file_path, pattern_of
from ..decisions import PINNED
from ..decisions.file import BY_TAG, NAME, PATTERN
from ..request import PlanRequest

KEPT = ("artist", "genre", "comment", "description", "show")


@dataclass(frozen=True, slots=True, kw_only=True)
class Called:
    """``path`` is the file's name without its ending, behind its folders; ``pattern`` is what it was made by."""

    tags: Tags
    path: str
    pattern: str
    file_system: str
    reasons: Mapping[str, Reason]


def called(
    request: PlanRequest, profile: DeviceProfile, sound: AudioSettings | None, *, only_sound: bool = False
) -> Called:
    """What is written in the file, and how it is called; a file of sound alone keeps what people wrote into its source.

    Raises ``BadPattern``.
    """
    reasons: dict[str, Reason] = {}
    values: dict[str, object] = {}
    for tag, kind in BY_TAG.items():
        if (said := request.pins.of(kind)) is not None:
            values[tag], reasons[kind.key] = said, PINNED
        elif (found := request.tags.found.get(tag) or (_written(request, tag) if only_sound else None)) is not None:
            values[tag], reasons[kind.key] = found.value, found.reason
        else:
            reasons[kind.key] = Reason(code="tag_unknown")
    tags = tags_of(values)
    named = tags.or_called(request.name)
    if "title" not in values and named != tags:
        tags, reasons["file.title"] = named, Reason(code="name_from_label")
    if "kind" not in values:
        reasons["file.kind"] = Reason(code="tag_film")
    pattern = _pattern(request, tags, reasons)
    more = {
        "device": " + ".join(device.name for device in request.devices),
        "language": language_name(sound.language) if sound and sound.language != "und" else "",
    }
    system = profile.limits.file_system
    path = file_path(pattern, named, more, system)
    if by_hand := request.pins.of(NAME):
        folder, slash, _ = path.rpartition("/")
        path = f"{folder}{slash}{safe_stem(by_hand, system)}"
    return Called(tags=tags, path=path, pattern=pattern, file_system=system, reasons=reasons)


def _written(request: PlanRequest, tag: str) -> Proposed | None:
    text = request.title.tags.get(tag) if tag in KEPT else None
    return Proposed(value=text, reason=Reason(code="tag_written")) if text else None


def _pattern(request: PlanRequest, tags: Tags, reasons: dict[str, Reason]) -> str:
    said = request.pins.of(PATTERN)
    reasons[PATTERN.key] = PINNED if said else Reason(code="pattern_of_kind")
    return request.naming.of(tags.kind) if said is None else pattern_of(said, tags.kind)
