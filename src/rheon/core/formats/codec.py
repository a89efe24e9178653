"""What is known of a codec, by its standard, and of the encoders that make it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from fractions import Fraction

from ..media import Balance, VideoSettings
from .level import Level

ANY_PROFILE = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class VideoEncoder:
    """An encoder of the engine for one codec.

    ``name`` is the engine's. ``quality`` is its constant-quality scale at the five balances, empty where it holds no
    peak at constant quality; ``scale`` are the finest and the coarsest value, ``halving`` how many steps of it halve
    the rate (from experience). ``presets`` go from slow to quick, each with pixels a second on the two-core machines
    Rheon is made for; ``preset`` is the one for each balance. ``bits_per_pixel`` is usual at even balance and 720 x
    480; ``plain_share`` is what the same quality takes in one of the codec's plain profiles (measured).
    ``profiles`` are those it writes at 8 bits, the plainest first. ``clip_quality`` and ``clip_preset`` are for tiny
    clips that only have to be there soon. ``hardware`` is the family (``formats/hardware``) that one in hardware
    belongs to, which not every machine has. ``arguments`` are everything that only this encoder understands, for a pass
    (0 where there is one); by ``field_arguments`` it codes pictures of two fields as such, where it can.
    """

    name: str
    quality: tuple[int, ...] = ()
    scale: tuple[int, int] = (0, 51)
    halving: int = 6
    presets: Mapping[str, float]
    preset: tuple[str, ...]
    bits_per_pixel: float
    plain_share: float = 1.0
    profiles: tuple[str, ...] = ()
    ten_bit_profile: str | None = None
    two_passes: bool = True
    references: int = 3
    b_frames: int = 2
    frame_rates: tuple[Fraction, ...] = ()
    clip_quality: int | None = None
    clip_preset: str = "medium"
    field_arguments: tuple[str, ...] = ()
    hardware: str | None = None
    arguments: Callable[[VideoSettings, int], list[str]]

    @property
    def written_profiles(self) -> tuple[str, ...]:
        """Every profile it writes, each once."""
        return tuple(dict.fromkeys((*self.profiles, *([self.ten_bit_profile] if self.ten_bit_profile else []))))

    def quality_at(self, balance: Balance) -> int | None:
        return self.quality[balance.step] if self.quality else None


def one_reference(level: Level, width: int, height: int) -> int:
    return 1


def no_level(indication: int) -> str | None:
    """Where the stream's word for its level says nothing that could be trusted."""
    return None


@dataclass(frozen=True, slots=True, kw_only=True)
class VideoCodec:
    """A way to code pictures, by its standard.

    ``name`` is the engine's and ours. ``profiles`` rise in what they can do, each with its name for people;
    ``plain_profiles`` are those without pictures that look ahead. ``levels`` rise too, by profile (``ANY_PROFILE`` for
    every other); ``usual_level`` bounds a device that names none. ``references`` says how many frames the decoded
    picture buffer holds at a level and size. ``read_profiles`` and ``read_level`` turn the engine's words for them into
    ours. ``source_bits`` are usual for a pixel of sources (a guess before anybody has looked). ``names_colour``: the
    stream says how its colours are to be read. ``played_rank`` and ``small_rank`` order the codecs that Rheon makes, by
    how widely they are played and how small large pictures become. ``spliced_in`` are the containers in which pictures
    of two encoders may follow each other, each under its own headers.
    """

    name: str
    label: str
    standard: str = ""
    profiles: Mapping[str, str] = field(default_factory=dict)
    plain_profiles: frozenset[str] = frozenset()
    levels: Mapping[str, Mapping[str, Level]] = field(default_factory=dict)
    usual_level: str = ""
    references: Callable[[Level, int, int], int] = one_reference
    read_profiles: Mapping[str, str] = field(default_factory=dict)
    read_level: Callable[[int], str | None] = str
    source_bits: float = 0.2
    names_colour: bool = False
    played_rank: int = 99
    small_rank: int = 99
    spliced_in: frozenset[str] = frozenset()
    encoders: tuple[VideoEncoder, ...] = ()

    def levels_of(self, profile: str | None) -> Mapping[str, Level]:
        """The levels in rising order, with rates as the profile scales them; those of the first where none is named."""
        if profile is None:
            return next(iter(self.levels.values()), {})
        return self.levels.get(profile, self.levels.get(ANY_PROFILE, {}))


@dataclass(frozen=True, slots=True, kw_only=True)
class AudioEncoder:
    """The engine's encoder for one codec of sound.

    ``stereo_bps`` and ``surround_bps`` are rates at the five balances (one channel takes half of stereo's); ``kbps``
    are the standard's where it has a list. ``priming`` are the samples of silence that it puts in front.
    ``surround_arguments`` go before more than two channels.
    """

    name: str
    sample_rates: tuple[int, ...]
    most_channels: int = 8
    stereo_bps: tuple[int, ...]
    surround_bps: tuple[int, ...] = ()
    kbps: tuple[int, ...] = ()
    priming: int = 0
    surround_arguments: tuple[tuple[str, str], ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class AudioCodec:
    """A way to code sound, by its standard.

    ``bits`` are those of a sample where samples are kept as they are; ``kept_as`` is the codec under whose name a file
    holds them. ``rank`` orders the codecs that Rheon makes by how widely they are played. ``stands_alone``: any frame
    may follow any other without being heard, since encoders put no silence in front and frames need few before them.
    """

    name: str
    label: str
    standard: str = ""
    profiles: tuple[str, ...] = ()
    read_profiles: Mapping[str, str] = field(default_factory=dict)
    lossless: bool = False
    bits: int | None = None
    kept_as: str | None = None
    rank: int = 99
    encoder: AudioEncoder | None = None
    stands_alone: bool = False

    @property
    def frames_stand_alone(self) -> bool:
        return self.stands_alone or self.bits is not None


@dataclass(frozen=True, slots=True, kw_only=True)
class SubtitleFormat:
    """A form of subtitles: text, or pictures. ``encoder`` is the engine's where it writes them."""

    name: str
    label: str
    is_text: bool
    encoder: str | None = None
