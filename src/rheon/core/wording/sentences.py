"""Reasons as sentences: the one place where codes become words."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from ..media import Reason
from ..media.facts import as_fact
from .facts import sides
from .lengths import duration_text
from .rules import RULE_NAMES

Values = dict[str, object]


def sentence(reason: Reason) -> str:
    """The sentence for a reason, without its full stop. An unknown code is a mistake and raises ``KeyError``."""
    made = SENTENCES[reason.code]
    return made if isinstance(made, str) else made(reason.values)


def taken_text(reasons: Sequence[Reason], *, together: bool = False) -> str:
    """What stands behind the number of a title that is proposed; ``together`` where several are for the same reason."""
    texts = [
        TOGETHER[reason.code](reason.values) if together and reason.code in TOGETHER else sentence(reason)
        for reason in reasons
    ]
    said = "; ".join(texts)
    return said if reasons and reasons[0].code in SAYS_WHAT_FOR else f"picked: {said}"


def _longest(values: Values) -> str:
    parts = [f"the longest by far, next is {duration_text(_number(values['next_s']))}"]
    if _number(values["chapters"]) > 1:
        parts.append(f"{values['chapters']} chapters")
    if _number(values["audio"]) > 1:
        parts.append(f"{values['audio']} audio tracks")
    return "taken for the film: " + ", ".join(parts)


def _nearly_same(values: Values) -> str:
    without, more = _number(values["without_s"]), _number(values["with_s"])
    parts = [f"lacks {_seconds(without)} of it"] if without >= 0.5 else []
    if more >= 0.5:
        parts.append(f"has {_seconds(more)} of its own")
    return f"nearly the same as title {values['title']}: " + " and ".join(parts)


def _seconds(seconds: float) -> str:
    return f"{seconds:.1f} s" if seconds < 60 else duration_text(seconds)


def _number(value: object) -> float:
    return float(value) if isinstance(value, int | float) else 0.0


def _rate(values: Values) -> str:
    peak, buffer = _number(values["peak_bps"]) / 1e6, _number(values["buffer_bits"]) / 1e6
    return f"balance {values['balance']}; peak {peak:.1f} Mb/s, buffer {buffer:.1f} Mb, inside level and device"


def _peaks(values: Values) -> str:
    peak, buffer = _number(values["peak_bps"]) / 1e6, _number(values["buffer_bits"]) / 1e6
    return f"peak {peak:.1f} Mb/s, buffer {buffer:.1f} Mb"


def _colour(text: str, values: Values) -> str:
    return f"{text}; full range made limited" if values["full"] else text


def _time_range(values: Values) -> str:
    start, end = duration_text(_number(values["from_s"])), duration_text(_number(values["until_s"]))
    return f"{start} to {end} of title {values['title']}"


def _breaks(values: Values) -> str:
    rule = str(values["rule"])
    measured, allowed = sides(as_fact(values["measured"]), as_fact(values["allowed"]))
    return f"{RULE_NAMES.get(rule, rule)} is {measured}, the device takes {allowed}"


def _breaks_perhaps(values: Values) -> str:
    return f"{_breaks(values)} for sure; some of its kind play this too"


SAYS_WHAT_FOR = frozenset({"longest"})
"""Reasons whose sentence begins with what a title is taken for."""
TOGETHER: dict[str, Callable[[Values], str]] = {
    "similar_lengths": lambda v: f"{v['count']} titles of similar length: a series",
}
"""Reasons that are said otherwise of all the titles they hold for."""

SENTENCES: dict[str, str | Callable[[Values], str]] = {
    # roles
    "longest": _longest,
    "only_title": "the only title here",
    "only_programme": "the only title here, apart from copies of it",
    "similar_lengths": lambda v: f"one of {v['count']} titles of similar length: a series",
    "much_shorter": lambda v: f"much shorter than the longest title ({duration_text(_number(v['longest_s']))})",
    "very_short": lambda v: f"only {_number(v['duration_s']):.1f} s long, as menus are",
    "same_material": lambda v: f"the same material as title {v['title']}",
    "nearly_same_material": _nearly_same,
    "chapters_repeat": lambda v: f"its chapters repeat {v['count']} times alike: all episodes in one",
    "chapter_range": lambda v: f"chapters {v['first']} to {v['last']} of title {v['title']}",
    "time_range": _time_range,
    "not_one_file": "the streams fit, but no one file is this title",
    "other_track_first": "it would play, but with another track than yours",
    "stands_still": "a picture that stands until somebody goes on, as menus do",
    "unlike_episodes": lambda v: f"longer than the episodes ({duration_text(_number(v['usual_s']))})",
    "by_hand": "set by hand",
    "numbered_episode": lambda v: f"its name says season {v['season']}, episode {v['episode']}",
    "numbered_part": lambda v: f"its name has the number {v['episode']} of a series",
    "named_extra": "its name says that it is an extra",
    "only_sound": "it has sound and no picture",
    "own_file": "a file of its own",
    "holds_titles": lambda v: "holds titles " + ", ".join(map(str, v["titles"])),  # type: ignore[call-overload]
    "no_evidence": "nothing speaks for more",
    # verdicts
    "obeys_all": "it keeps every rule of the device",
    "only_container": "the streams fit, only the container does not",
    "breaks_rule": _breaks,
    "breaks_rule_perhaps": _breaks_perhaps,
    "sound_only": "only the sound is kept",
    "no_streams": "it has neither picture nor sound",
    "no_size": "its picture does not say how large it is; scan it again",
    "no_sound_to_keep": "it has no sound, and the device plays nothing else",
    "no_common_codec": "the device plays nothing that Rheon can make",
    "title_scrambled": "its data is scrambled",
    "title_cut_off": "part of its data is missing",
    "title_no_data": "its data is not there",
    # picture
    "borders_unknown": "not looked for yet",
    "no_borders": "no black borders were found",
    "black_borders": "black on every picture that was looked at; nothing of the film is lost",
    "words_in_borders": "kept, since the subtitle's pictures may stand in the black borders",
    "little_left": "kept, since so little would be left of the picture",
    "borders_of_turned": "kept, since the picture is turned",
    "pinned": "set by hand",
    "stream_untouched": "the device takes it as it is",
    "square_pixels": lambda v: f"{v['source']} stored, turned into square pixels; no line is lost",
    "kept_size": lambda v: f"{v['source']} as on the source; more would only be larger",
    "kept_shape": lambda v: f"{v['source']} as stored; the device takes non-square pixels",
    "fits_screen": lambda v: f"from {v['source']}, to fill the {v['width']}×{v['height']} screen",
    "fits_decoder": lambda v: f"from {v['source']}; the device decodes up to {v['width']}×{v['height']}",
    "fits_level": lambda v: f"from {v['source']}; the device's level holds no more",
    "source_rate": "as on the source",
    "varying_kept": lambda v: (
        f"its pictures come at changing distances, up to {v['quick']} a second; each keeps its time"
    ),
    "varying_evened": lambda v: f"its pictures come at changing distances; made even at the quick part's {v['quick']}",
    "whole_frames": "the source has whole frames",
    "fields_doubled": "each field of the source becomes a frame",
    "rate_of_codec": lambda v: f"the codec has no code for {v['source']}; the next below",
    "best_deinterlacer": "the clearest edges",
    "fields_joined": "interlaced on the source; each pair of fields becomes one frame",
    "film_restored": lambda v: f"film that was spread to {v['source']}; restored",
    "rate_limited": lambda v: f"halved: the device shows up to {v['limit']} a second",
    "plays_most_widely": lambda v: f"{v['codec']} plays most widely of what the device takes",
    "small_for_large_pictures": lambda v: f"{v['codec']} keeps large pictures small",
    "held_by_container": "what the container set by hand holds",
    "only_codec": lambda v: f"the only codec for the device: {v['codec']}",
    "balance_rate": _rate,
    "rate_by_hand": lambda v: f"set by hand; {_peaks(v)}",
    "rate_for_size": lambda v: f"what the size leaves beside the sound; {_peaks(v)}",
    "fewer_pixels": lambda v: f"from {v['source']}: {v['kbps']} kb/s are few for so many pixels; fewer look better",
    "aspect_of_source": "as the source says",
    "pixels_square": "every player shows them right",
    "pixels_stored": "the device takes non-square pixels; nothing is scaled",
    "best_profile": "the most capable of the device that Rheon makes",
    "lowest_level": "the lowest that holds size, rate and peaks",
    "no_levels": "this codec has none",
    "depth_of_source": "as on the source",
    "depth_kept": "as on the source; the device takes it",
    "depth_lowered": "the device takes no more",
    "colour_kept": lambda v: _colour("as on the source", v),
    "colour_of_size": lambda v: _colour(f"turned from {v['source']}: players expect it at this size", v),
    "colour_wide_kept": "wide colours kept, with the ten bits they need",
    "inside_level_and_device": "inside level, device and file limit",
    "usual_keyframes": "close enough to seek well, far enough to stay small",
    "one_pass": "one is enough at constant quality",
    "two_passes": "the first measures, so that the rate is met well",
    "effort_of_balance": lambda v: f"balance {v['balance']}",
    # sound
    "only_track": "the only track",
    "your_language": lambda v: f"{v['language']} comes first in the household; no commentary, most channels",
    "most_channels": "no track in the household's languages; the one with most channels",
    "no_sound_in_title": "the title has no sound",
    "sound_mended": "part of the source is lost; made anew, so that nothing torn stays in it",
    "sound_realigned": lambda v: f"{v['container']} keeps no times; made anew so that it stays with the picture",
    "sound_untouched": "the device takes it as it is; copied without loss",
    "fewer_speakers": lambda v: f"{v['codec']} with {v['channels']} channels on the source; the centre stays clear",
    "codec_not_taken": lambda v: f"the device does not take {v['codec']} here",
    "stereo_wished": lambda v: f"stereo is wished here; {v['channels']} channels on the source, the centre stays clear",
    "as_in_source": "as on the source",
    "chosen_for_codec": "fits codec, channels and balance",
    "not_listened": "nobody has listened to it yet",
    "usual_loudness": lambda v: f"{_number(v['lufs']):.0f} LUFS, as usual",
    "quiet_track": lambda v: f"quiet: {_number(v['lufs']):.0f} LUFS; {_number(v['gain']):+.1f} dB would make it usual",
    "sound_out_of_bounds": lambda v: f"{v['codec']} as on the source is out of the device's bounds",
    # words
    "no_subtitles_in_title": "the title has none",
    "sound_is_understood": "the sound is in a language of the household",
    "sound_is_foreign": "the sound is in no language of the household",
    "words_never": "none are wished here",
    "words_always": "wished here, in your language",
    "no_words_of_yours": "none in a language of the household",
    "no_forced_lines": "only forced lines are wished, and none are known",
    "forced_wished": "only forced lines are wished here",
    "words_drawn": "shown on every player, for good",
    "words_track": "the device can switch it on; the picture stays as it is",
    "words_file": "the device reads it beside the film",
    "lines_as_wished": "as wished here",
    # file
    "preferred_container": "what the device likes best",
    "container_for_streams": "it holds most streams as they are",
    "name_from_label": "from the source's name",
    "name_made_safe": lambda v: f"signs that a file name can't have ({v['file_system']}) were replaced",
    "chapters_kept": "kept",
    "no_chapters_in_title": "the title has none",
    "no_chapters_in_container": lambda v: f"{v['container']} holds none",
    # faithful copies
    "faithful": "every track as it is on the source",
    "faithful_kept": "kept as it is",
    "samples_kept": "kept; LPCM goes in under another name, sample for sample",
    "holds_everything": "it holds every kind of track",
}
