"""What somebody typed about a device, understood: “a seven-year-old tablet”, “TV 2011 usb stick”. Pure."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from difflib import get_close_matches
from functools import lru_cache

from .catalogue import standards
from .certainty import open_questions
from .finder import Answers, Found, find
from .kinds import Family, families
from .profile import DeviceKind, DeviceProfile

NAME_WEIGHT, WORD_WEIGHT = 4, 1
"""A word that names a family by itself, and one that only adds to it."""
PHRASES: tuple[tuple[str, DeviceKind, int], ...] = (
    (
        r"\b(media|streaming|hdmi|4k|tv) stick\b|\bstick (under|behind) the (tv|telly|television)\b",
        DeviceKind.PLAYER,
        9,
    ),
    (r"^\W*((a|my|the|our) )?stick\W*$", DeviceKind.PLAYER, 9),
    # whatever else is said of it, such a thing is that
    (r"\btablet\b", DeviceKind.TABLET, 18),
    (r"\b(laptop|notebook)\b", DeviceKind.COMPUTER, 18),
    (r"\b(smart ?phone|phone)\b", DeviceKind.PHONE, 18),
    (r"\b(hard disk|media|network|set.?top|streaming) (player|box)\b", DeviceKind.PLAYER, 5),
    (r"\b(blu.?ray|dvd|disc) player\b", DeviceKind.DISC_PLAYER, 5),
    (r"\b(photo|picture) frame\b", DeviceKind.FRAME, 5),
    (r"\b(pocket|mp[34]) player\b|\bplayer with a (small|tiny) screen\b", DeviceKind.POCKET, 9),
    (r"\bpocket projector\b", DeviceKind.PROJECTOR, 5),
    (r"\b(sound bar|kitchen radio|(music|network) (clip|speaker|player))\b", DeviceKind.SOUND, 5),
    (r"\bcar (radio|stereo)\b|\b(radio|stereo) in the car\b", DeviceKind.SOUND, 9),
    (r"\b(back|rear)[ -]seat\b|\bhead ?rest|\bportable (dvd )?player\b", DeviceKind.CAR, 12),
    (r"\bgames? (machine|console)\b", DeviceKind.CONSOLE, 5),
)
"""What several words mean together, and how much that weighs."""
SAID: tuple[tuple[str, str, bool], ...] = (
    (r"\b(4k|8k|uhd|ultra hd|2160p)\b", "says_4k", True),
    (r"\b(full.?hd|1080p)\b", "says_4k", False),
    (r"\b(full.?hd|1080p)\b", "hd_ready", False),
    (r"\b(hd.?ready|720p|kitchen|bedroom)\b", "hd_ready", True),
    (r"\b(hd.?ready|720p)\b", "says_4k", False),
    (r"\bhdr\b", "says_hdr", True),
    (r"\b(hevc|h\.?265)\b", "says_hevc", True),
    (r"\bdts\b", "dts_logo", True),
    (r"\b(small|mini|little|[78](\.\d)?[ -]?(inch|\"))", "small", True),
    (r"\b(large|big|1[0-3](\.\d)?[ -]?(inch|\"))", "small", False),
    (r"\b(child|children|children's|kid|kids|kid's|daughter|son|grandchildren)\b", "for_children", True),
    (r"\b(keys|keypad|flip|folding|buttons)\b", "keys", True),
    (r"\btouch\b", "touch", True),
    (r"\btouch\b", "keys", False),
    (r"\b(stick|dongle)\b", "stick", True),
    (r"\bbox\b", "stick", False),
    (r"\bdvd\b", "blue_discs", False),
    (r"\bblu.?ray\b", "blue_discs", True),
    (r"\bconsole\b", "handheld", False),
    (r"\b(handheld|portable)\b", "handheld", True),
    (r"\bunder the (tv|telly|television)\b", "handheld", False),
    (r"\b(dash|dashboard|radio|in the car|car screen)\b", "headrest", False),
    (r"\b(head ?rest|seat|lap|portable)\b", "headrest", True),
    (r"\b(pocket|pico|mini|hand)\b", "palm", True),
    (r"\b(wi.?fi|app)\b", "wifi", True),
    (r"\bcar\b", "in_a_car", True),
    (r"\b(network|hi.?fi|wi.?fi|streaming)\b", "on_the_network", True),
    (r"\b(64|128|256|512) ?gb\b", "large_sticks", True),
    (r"\.?\bmkv\b", "mkv_played", True),
    (r"\b(up to date|current|newest)\b", "only_current", True),
)
NUMBERS = (
    "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve", "thirteen",
    "fourteen", "fifteen", "sixteen", "seventeen", "eighteen", "nineteen", "twenty",
)  # fmt: skip
YEARS_OLD = re.compile(
    rf"\b(\d{{1,2}}|{'|'.join(NUMBERS)})[ -]years?[ -]old\b|\b(\d{{1,2}}|{'|'.join(NUMBERS)}) years\b"
)
YEAR = re.compile(r"\b(19[89]\d|20\d\d)\b|['’](\d\d)\b")
LAST_YEAR = re.compile(r"\blast year\b")
NEW = re.compile(r"\b(brand new|new|newest|latest|this year's)\b")
COMMON = frozenset(
    {"years", "year", "with", "from", "that", "takes", "take", "plays", "play", "whose", "reads", "read"}
    | {"about", "kitchen", "living", "room", "have"}
)
FORGIVEN = 0.82
"""How like a word has to be to one that is known (``difflib``); numbers are meant as they are typed."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Heard:
    """What was understood, the kinds that fit (the likeliest first), and the standards' points that were named."""

    answers: Answers
    found: tuple[Found, ...]
    standards: tuple[DeviceProfile, ...]


def hear(typed: str, this_year: int, known: Answers | None = None) -> Heard:
    """Understand a sentence. Where it names no kind, every kind that its words fit is tried; none for no sense.

    ``known`` is what was answered besides; it goes before what was typed.
    """
    text = _corrected(typed.lower())
    known = known or Answers()
    year = known.year or _year(text, this_year)
    typed_said = {name: value for pattern, name, value in SAID if re.search(pattern, text)}
    # a goal is a kind of profile too, but no kind of device
    kinds = [known.kind] if known.kind in families() else _kinds(text)
    meant = [Answers(kind=kind, year=year, said={**_meant(typed_said, kind), **known.said}) for kind in kinds]
    return Heard(
        answers=meant[0] if meant else Answers(year=year, said=known.said),
        found=tuple(one for answers in meant if (one := find(answers, this_year))),
        standards=_standards(text) if not kinds else (),
    )


def _meant(said: Mapping[str, bool], kind: DeviceKind) -> dict[str, bool]:
    """Only the words that mean something for the kind: “a TV that takes a stick” says nothing of being one."""
    asked = {name for one in families()[kind].generations for name in (*one.traits, *open_questions(one.profile))}
    return {name: value for name, value in said.items() if name in asked}


def _kinds(text: str) -> list[DeviceKind]:
    """The families that the words speak for, the best first; only those that come near the best."""
    scores = {kind: _score(text, family) for kind, family in families().items()}
    best = max(scores.values(), default=0)
    if not best:
        return []
    return [kind for kind in sorted(scores, key=lambda kind: -scores[kind]) if scores[kind] * 2 > best]


def _score(text: str, family: Family) -> int:
    said = _words(text)
    phrases = sum(weight for pattern, kind, weight in PHRASES if kind is family.kind and re.search(pattern, text))
    named = NAME_WEIGHT * bool(said & family.names)
    return phrases + named + WORD_WEIGHT * len(said & family.every_word)


def _standards(text: str) -> tuple[DeviceProfile, ...]:
    """Conformance points whose name holds every word that was typed: “h.264 4.1”, “av1”."""
    wanted = [word for word in re.split(r"[\s,]+", text) if word]
    return tuple(
        profile
        for profile in standards().values()
        if wanted and all(word in f"{profile.name} {profile.id} {profile.about}".lower() for word in wanted)
    )


def _year(text: str, this_year: int) -> int | None:
    if found := YEARS_OLD.search(text):
        said = next(part for part in found.groups() if part)
        return this_year - (int(said) if said.isdigit() else NUMBERS.index(said) + 1)
    if found := YEAR.search(text):
        whole, short = found.groups()
        return int(whole) if whole else 2000 + int(short)
    if LAST_YEAR.search(text):
        return this_year - 1
    return this_year if NEW.search(text) else None


def _corrected(text: str) -> str:
    """The text with misspelt words put right by the known word that is most like them, plurals made singular."""
    return re.sub(r"[a-z]{4,}", lambda found: _known(found[0]), text)


@lru_cache(maxsize=4096)
def _known(word: str) -> str:
    if word in _vocabulary():
        return word
    if word.endswith("s") and word[:-1] in _vocabulary():
        return word[:-1]
    return next(iter(get_close_matches(word, sorted(_vocabulary()), 1, FORGIVEN)), word)


@lru_cache(maxsize=1)
def _vocabulary() -> frozenset[str]:
    """Every word that means something here, and common ones that must not be taken for them."""
    patterns = (*(pattern for pattern, _, _ in PHRASES), *(pattern for pattern, _, _ in SAID))
    phrases = {word for pattern in patterns for word in re.findall(r"[a-z]{4,}", pattern)}
    return frozenset({*phrases, *COMMON, *NUMBERS, *(word for one in families().values() for word in one.every_word)})


def _words(text: str) -> frozenset[str]:
    return frozenset(re.findall(r"[a-z0-9]+", text))
