"""How a title stands to a device: plays, re-wrap, convert, cannot."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from ..formats import ENCODABLE_AUDIO, ENCODABLE_VIDEO, can_hold
from ..media import AudioStream, FileData, Reason, Title
from .certainty import careful
from .facts import MediaFacts, title_facts
from .profile import DeviceProfile
from .rules import RuleResult, broken, judge
from .tracks import preferred_audio


class Verdict(StrEnum):
    PLAYS = "plays"
    REWRAP = "rewrap"
    CONVERT = "convert"
    CANNOT = "cannot"

    @property
    def rank(self) -> int:
        """The less has to be done, the lower."""
        return list(Verdict).index(self)


CONTAINER_RULES = frozenset({"container", "extension", "index"})


@dataclass(frozen=True, slots=True, kw_only=True)
class Judgement:
    """A verdict, the facts and the careful profile it rests on, and the names of the rules that are broken.

    ``whole`` is the profile with what is doubtful.
    """

    verdict: Verdict
    facts: MediaFacts
    profile: DeviceProfile
    broken: tuple[str, ...] = ()
    refusal: Reason | None = None
    whole: DeviceProfile | None = None

    @property
    def perhaps(self) -> Verdict | None:
        """The better verdict that would hold if the device could do what is doubtful, where it is better."""
        if not self.broken or self.whole is None or self.whole is self.profile:
            return None
        better = _verdict(self.facts, self.whole, tuple(broken(self.facts, self.whole)))
        return better if better.rank < self.verdict.rank else None

    @property
    def rules(self) -> tuple[RuleResult, ...]:
        """Every rule with both sides in words."""
        return judge(self.facts, self.profile)

    @property
    def reason(self) -> Reason:
        """The verdict's reason in one piece."""
        if self.refusal is not None:
            return self.refusal
        if self.verdict is Verdict.PLAYS:
            return Reason(code="obeys_all")
        if self.verdict is Verdict.REWRAP:
            return Reason(code="only_container")
        if not self.profile.video and self.facts.video:
            return Reason(code="sound_only")
        name = next((name for name in self.broken if name not in CONTAINER_RULES), self.broken[0])
        rule = next(rule for rule in self.rules if rule.rule == name)
        return Reason(
            code="breaks_rule_perhaps" if self.perhaps else "breaks_rule",
            values={"rule": rule.rule, "measured": rule.measured, "allowed": rule.allowed},
        )


def judge_title(title: Title, profile: DeviceProfile, languages: tuple[str, ...] = ()) -> Judgement:
    """The verdict for a title with the audio track that would be chosen for ``languages``.

    It rests on what the device can do for sure; what is doubtful is only told.
    """
    whole, profile = profile, careful(profile)
    audio = preferred_audio(title.audio, languages)
    facts = title_facts(title, audio)
    if (refusal := _refusal(title, profile)) is not None:
        return Judgement(verdict=Verdict.CANNOT, facts=facts, profile=profile, refusal=refusal)
    names = tuple(broken(facts, profile))
    verdict = _verdict(facts, profile, names)
    if title.joined and not title.parts_agree and verdict is not Verdict.CONVERT:
        return Judgement(verdict=Verdict.CONVERT, facts=facts, profile=profile, refusal=Reason(code="parts_differ"))
    if verdict is Verdict.PLAYS and (against := _not_as_it_is(title, audio)) is not None:
        return Judgement(verdict=Verdict.REWRAP, facts=facts, profile=profile, refusal=Reason(code=against))
    return Judgement(verdict=verdict, facts=facts, profile=profile, broken=names, whole=whole)


def _not_as_it_is(title: Title, audio: AudioStream | None) -> str | None:
    """What keeps a title that breaks no rule from being played as it is: the reason's code."""
    if title.joined:
        return "parts_to_join"
    if not is_one_file(title):
        return "not_one_file"
    first = title.audio[0] if title.audio else None
    if audio is not None and first is not None and audio.index != first.index and audio.language != first.language:
        return "other_track_first"
    return None


def is_one_file(title: Title) -> bool:
    """Whether a title is exactly one whole file: not a part, not several clips, no join, nothing inside an image."""
    data = title.data
    if title.joined:
        return False
    if isinstance(data, FileData):
        return title.part_of is None and not data.from_s
    extents = data.extents
    whole = len(extents) == 1 and extents[0].offset_bytes == 0 and not data.cells[-1].lap
    return whole and title.part_of is None and extents[0].path.lower().endswith((".m2ts", ".mts"))


def _verdict(facts: MediaFacts, profile: DeviceProfile, names: tuple[str, ...]) -> Verdict:
    if not profile.video and facts.video:
        return Verdict.CONVERT
    if not names:
        return Verdict.PLAYS
    if CONTAINER_RULES.issuperset(names):
        video, sound = facts.video.codec if facts.video else None, facts.audio.codec if facts.audio else None
        if any(can_hold(entry.format, video, sound) for entry in profile.containers):
            return Verdict.REWRAP
    return Verdict.CONVERT


def _refusal(title: Title, profile: DeviceProfile) -> Reason | None:
    """Why nothing can be made of the title for this device, or ``None``."""
    if title.fault:
        return Reason(code=f"title_{title.fault}")
    if title.video is None and not title.audio:
        return Reason(code="no_streams")
    if title.video is not None and not (title.video.width and title.video.height):
        return Reason(code="no_size")
    if not profile.video and not title.audio:
        return Reason(code="no_sound_to_keep")
    plays_video = title.video is None or not profile.video or any(e.codec in ENCODABLE_VIDEO for e in profile.video)
    known = {title.video.codec} if title.video else set()
    if not plays_video and not any(entry.codec in known for entry in profile.video):
        return Reason(code="no_common_codec")
    if title.audio and not any(entry.codec in ENCODABLE_AUDIO for entry in profile.audio):
        return Reason(code="no_common_codec")
    return None
