"""Reasons as sentences: the one place where codes become words."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence

from ..catalogue import say, say_count
from ..media import Reason
from ..media.facts import as_fact
from .facts import DYNAMIC_RANGES, sides
from .lengths import duration_text, in_time
from .room import ROOM
from .rules import rule_name
from .values import Values, number
from .works import WORKS


def sentence(reason: Reason) -> str:
    """The sentence for a reason, without its full stop. An unknown code is a mistake and raises ``KeyError``."""
    return _said(SENTENCES[reason.code], reason.values)


def taken_text(reasons: Sequence[Reason], *, together: bool = False) -> str:
    """What stands behind the number of a title that is proposed; ``together`` where several are for the same reason."""
    texts = [
        _said(TOGETHER[reason.code], reason.values) if together and reason.code in TOGETHER else sentence(reason)
        for reason in reasons
    ]
    said = "; ".join(texts)
    return said if reasons and reasons[0].code in SAYS_WHAT_FOR else say("picked: {reasons}", reasons=said)


def _said(made: str | Callable[[Values], str], values: Values) -> str:
    return say(made, **values) if isinstance(made, str) else made(values)


def _longest(values: Values) -> str:
    next_s = duration_text(number(values["next_s"]))
    parts = [say("taken for the film: the longest by far, next is {next_s}", next_s=next_s)]
    if (chapters := number(values["chapters"])) > 1:
        parts.append(say_count("{count} chapter", "{count} chapters", int(chapters)))
    if (audio := number(values["audio"])) > 1:
        parts.append(say_count("{count} audio track", "{count} audio tracks", int(audio)))
    return ", ".join(parts)


def _joined(values: Values) -> str:
    return say_count(
        "{count} part, one after the other", "{count} parts, one after the other", int(number(values["count"]))
    )


def _nearly_same(values: Values) -> str:
    without, more = number(values["without_s"]), number(values["with_s"])
    parts = [say("lacks {length} of it", length=_seconds(without))] if without >= 0.5 else []
    if more >= 0.5:
        parts.append(say("has {length} of its own", length=_seconds(more)))
    how = say(" and ").join(parts)
    return say("nearly the same as title {title}: {how}", title=values["title"], how=how)


def _seconds(seconds: float) -> str:
    return f"{seconds:.1f} s" if seconds < 60 else duration_text(seconds)


def _rate(values: Values) -> str:
    balance, peaks = values["balance"], _peaks(values)
    return say("balance {balance}; {peaks}, inside level and device", balance=balance, peaks=peaks)


def _peaks(values: Values) -> str:
    peak, buffer = number(values["peak_bps"]) / 1e6, number(values["buffer_bits"]) / 1e6
    return say("peak {peak:.1f} Mb/s, buffer {buffer:.1f} Mb", peak=peak, buffer=buffer)


def _range(values: Values) -> Values:
    return {"range": say(DYNAMIC_RANGES[str(values["range"])])}


def _colour(text: str, values: Values) -> str:
    return say("{colour}; full range made limited", colour=text) if values["full"] else text


def _cut_copied(values: Values) -> str:
    early, late = number(values["earlier_s"]), number(values["later_s"])
    if max(early, late) < 0.02:
        return say("streams can begin just here, so nothing has to be encoded")
    return say(
        "copied streams can only begin at a key picture: {early} s before and {late} s after what was asked for",
        early=f"{max(0.0, early):.2f}",
        late=f"{max(0.0, late):.2f}",
    )


def _cut_edges(values: Values) -> str:
    encoded_s = number(values["encoded_s"])
    if encoded_s < 0.02:
        return say("streams can begin and end just here, so nothing has to be encoded")
    return say("{encoded} s next to the cuts are encoded anew, all else is copied as it is", encoded=f"{encoded_s:.2f}")


def _time_range(values: Values) -> str:
    start, end = duration_text(number(values["from_s"])), duration_text(number(values["until_s"]))
    return say("{start} to {end} of title {title}", start=start, end=end, title=values["title"])


def _breaks(values: Values) -> str:
    rule = str(values["rule"])
    measured, allowed = sides(as_fact(values["measured"]), as_fact(values["allowed"]))
    name = rule_name(rule)
    return say("{rule} is {measured}, the device takes {allowed}", rule=name, measured=measured, allowed=allowed)


def _breaks_perhaps(values: Values) -> str:
    return say("{broken} for sure; some of its kind play this too", broken=_breaks(values))


def _behind_end(values: Values) -> str:
    return say_count(
        "{count} chapter begins behind the end ({last}, and the title is {length} long) and is left out",
        "{count} chapters begin behind the end (the last at {last}, and the title is {length} long) and are left out",
        int(number(values["count"])),
        last=duration_text(number(values["last_s"])),
        length=duration_text(number(values["duration_s"])),
    )


def _at_once(values: Values) -> str:
    return say_count(
        "{count} chapter begins where another one does and is left out",
        "{count} chapters begin where others do and are left out",
        int(number(values["count"])),
    )


def _shortened(values: Values) -> str:
    return say_count(
        "{count} name is cut after {most} bytes, which is what players take",
        "{count} names are cut after {most} bytes, which is what players take",
        int(number(values["count"])),
        most=values["most"],
    )


def _closed(values: Values) -> str:
    if values["group"]:
        return say("whoever runs Rheon may not use {node}: add them to the group {group}", **values)
    return say("whoever runs Rheon may not use {node}", **values)


SAYS_WHAT_FOR = frozenset({"longest"})
"""Reasons whose sentence begins with what a title is taken for."""
TOGETHER: Mapping[str, str] = {
    "similar_lengths": "{count} titles of similar length: a series",
}
"""Reasons that are said otherwise of all the titles they hold for."""

SENTENCES: Mapping[str, str | Callable[[Values], str]] = {
    # lists of chapters
    "chapters_fewer_than_names": "these are {names} names and the title has {chapters} chapters: the last "
    "names are left out",
    "chapters_more_than_names": "these are {names} names and the title has {chapters} chapters: the last ones stay as "
    "they are",
    "chapters_behind_end": _behind_end,
    "chapters_at_once": _at_once,
    "chapter_names_shortened": _shortened,
    # roles
    "longest": _longest,
    "only_title": "the only title here",
    "only_programme": "the only title here, apart from copies of it",
    "similar_lengths": "one of {count} titles of similar length: a series",
    "much_shorter": in_time("much shorter than the longest title ({longest_s})"),
    "very_short": "only {duration_s:.1f} s long, as menus are",
    "same_material": "the same material as title {title}",
    "nearly_same_material": _nearly_same,
    "chapters_repeat": "its chapters repeat {count} times alike: all episodes in one",
    "chapter_range": "chapters {first} to {last} of title {title}",
    "time_range": _time_range,
    "only_a_part": "the device plays it as it is, and a part of it is kept",
    "joined": _joined,
    "parts_to_join": "the streams fit, and its parts become one file",
    "parts_agree": "their streams agree, so nothing has to be encoded",
    "parts_agree_converted": "their streams agree, but what is made of them is another form",
    "parts_differ": "its parts can't follow each other as they are, so they get one form",
    "joined_rates": "the parts have {rates} pictures a second; the quickest, so that none is lost",
    "sound_joined": "the device takes it as it is; made anew, so that nothing is heard where the parts meet",
    "not_one_file": "the streams fit, but no one file is this title",
    "other_track_first": "it would play, but with another track than yours",
    "stands_still": "a picture that stands until somebody goes on, as menus do",
    "unlike_episodes": in_time("longer than the episodes ({usual_s})"),
    "numbered_episode": "its name says season {season}, episode {episode}",
    "numbered_part": "its name has the number {episode} of a series",
    "named_extra": "its name says that it is an extra",
    "only_sound": "it has sound and no picture",
    "own_file": "a file of its own",
    "holds_titles": lambda v: say("holds titles {titles}", titles=", ".join(map(str, v["titles"]))),  # type: ignore[call-overload]
    "no_evidence": "nothing speaks for more",
    # verdicts
    "obeys_all": "it keeps every rule of the device",
    "only_container": "the streams fit, only the container does not",
    "picture_by_hand": "it would fit as it is; its picture is made anew for what was set by hand",
    "sound_by_hand": "it would fit as it is; its sound is made anew for what was set by hand",
    "drawn_into_picture": "it would fit as it is; its picture is made anew with the subtitles drawn into it",
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
    "subtitles_in_borders": "kept, since the subtitle's pictures may stand in the black borders",
    "little_left": "kept, since so little would be left of the picture",
    "shape_changes": "its shape changes between {narrow} and {wide}; only what is black in all of it is cut",
    "cut_to_fill": "cut at two sides, to fill the screen, which is {aspect} wide for one high",
    "turned_as_source": "as the source says",
    "whole_picture": "black stays beside a picture of another shape",
    "pinned": "set by hand",
    "stream_untouched": "the device takes it as it is",
    "square_pixels": "{source} stored, turned into square pixels; no line is lost",
    "joined_size": "{source} as its largest part has it; the others are fitted into it",
    "kept_size": "{source} as on the source; more would only be larger",
    "kept_shape": "{source} as stored; the device takes non-square pixels",
    "fits_screen": "from {source}, to fill the {width}×{height} screen",
    "fits_decoder": "from {source}; the device decodes up to {width}×{height}",
    "fits_level": "from {source}; the device's level holds no more",
    "source_rate": "as on the source",
    "varying_kept": "its pictures come at changing distances, up to {quick} a second; each keeps its time",
    "varying_evened": "its pictures come at changing distances; made even at the quick part's {quick}",
    "whole_frames": "the source has whole frames",
    "fields_doubled": "interlaced on the source; each field becomes a frame, and movement stays as smooth as it was",
    "frame_of_each_field": "each field of the source becomes a frame",
    "fields_kept": "interlaced on the source; the device shows fields, and no {doubled} frames a second of this size",
    "fields_joined_there": "interlaced on the source; each pair of fields becomes one frame, since the device does not "
    "show {doubled} a second of this size",
    "fields_matched": "film and video by turns; where fields are film's they become its frames again, else each pair "
    "becomes one",
    "film_at_own_rate": "film and video by turns; film comes at its own rate, video at {source}",
    "film_among_video": "film and video by turns, all at {source}",
    "noise_unknown": "not measured yet",
    "noise_found": "its noise is {noise} steps of 255 and takes room; grain belongs to a film unless somebody minds it",
    "noise_little": "hardly any was measured",
    "banding_by_eye": "look at skies and fades in the preview",
    "field_order_seen": "seen in how things move",
    "field_order_told": "as the source says",
    "field_order_usual": "what is usual; the source has whole frames",
    "rate_of_codec": "the codec has no code for {source}; the next below",
    "best_deinterlacer": "the clearest edges",
    "fields_joined": "interlaced on the source; each pair of fields becomes one frame",
    "film_restored": "film that was spread to {source}; restored",
    "rate_limited": "halved: the device shows up to {limit} a second",
    "plays_most_widely": "{codec} plays most widely of what the device takes",
    "keeps_hdr": "{codec} keeps the light beyond white, which the device shows",
    "small_for_large_pictures": "{codec} keeps large pictures small",
    "held_by_container": "what the container set by hand holds",
    "only_codec": "the only codec for the device: {codec}",
    "balance_rate": _rate,
    "rate_by_hand": lambda v: say("set by hand; {peaks}", peaks=_peaks(v)),
    "rate_for_size": lambda v: say("what the size leaves beside the sound; {peaks}", peaks=_peaks(v)),
    "fewer_pixels": "from {source}: {kbps} kb/s are few for so many pixels; fewer look better",
    "aspect_of_source": "as the source says",
    "pixels_square": "every player shows them right",
    "pixels_stored": "the device takes non-square pixels; nothing is scaled",
    "best_profile": "the most capable of the device that Rheon makes",
    "lowest_level": "the lowest that holds size, rate and peaks",
    "no_levels": "this codec has none",
    "depth_of_source": "as on the source",
    "depth_kept": "as on the source; the device takes it",
    "depth_lowered": "the device takes no more",
    "colour_kept": lambda v: _colour(say("as on the source"), v),
    "colour_of_size": lambda v: _colour(say("turned from {source}: players expect it at this size", **v), v),
    "colour_hdr_kept": "light beyond white kept: the device shows it",
    "colour_tone_mapped": lambda v: say(
        "from {range}: the device shows none of it; white paper stays white, what is brighter is drawn in", **_range(v)
    ),
    "colour_tone_mapped_depth": lambda v: say(
        "from {range}, which needs ten bits; white paper stays white, what is brighter is drawn in", **_range(v)
    ),
    "colour_wide_kept": "wide colours kept, with the ten bits they need",
    "inside_level_and_device": "inside level, device and file limit",
    "usual_keyframes": "close enough to seek well, far enough to stay small",
    "one_pass": "one is enough at constant quality",
    "two_passes": "the first measures, so that the rate is met well",
    "preset_of_balance": "balance {balance}",
    "encoder_software": "smaller at the same fidelity than what the graphics chip makes, which would be quicker",
    "encoder_only_software": "no graphics chip that makes this was found here to work",
    "encoder_quick": "speed is preferred, and it is quicker; software makes it anew if it fails",
    "encoder_set_by_hand": "what was set by hand for the rate, passes or preset, only software does",
    "encoder_absent": "the graphics chip that was asked for is not here, or does not make this",
    "encoder_of_fields": "the graphics chip codes no pictures of two fields",
    "encoder_failed": "the graphics chip failed, so software makes it",
    "hardware_not_built": "the engine on this machine was built without it ({encoder})",
    "hardware_no_node": "this machine has no such device: nothing is at {place}",
    "hardware_closed": _closed,
    "hardware_failed_at_titles": "it works when it is tried, but failed at {count} titles, the last time with “{said}”",
    "hardware_failed": "tried at {node}, where the engine said “{said}”",
    # sound
    "only_track": "the only track",
    "your_language": "{language} comes first in the household; no commentary, most channels",
    "most_channels": "no track in the household's languages; the one with most channels",
    "no_sound_in_title": "the title has no sound",
    "sound_cut": "the device takes it as it is; made anew, so that it is cut where the picture is",
    "sound_mended": "part of the source is lost; made anew, so that nothing torn stays in it",
    "sound_realigned": "{container} keeps no times; made anew so that it stays with the picture",
    "sound_too_large": "as it is it would take too much of the limit for one file; made smaller",
    "sound_untouched": "the device takes it as it is; copied without loss",
    "fewer_speakers": "{codec} with {channels} channels on the source; the centre stays clear",
    "codec_not_taken": "the device does not take {codec} here",
    "stereo_wished": "stereo is wished here; {channels} channels on the source, the centre stays clear",
    "as_in_source": "as on the source",
    "chosen_for_codec": "fits codec, channels and balance",
    "not_listened": "nobody has listened to it yet",
    "usual_loudness": "{lufs:.0f} LUFS, as usual",
    "uneven_parts": "its parts differ by {apart:.0f} dB in loudness; even brings each to a usual one",
    "quiet_track": "quiet: {lufs:.0f} LUFS; {gain:+.1f} dB would make it usual",
    "sound_out_of_bounds": "{codec} as on the source is out of the device's bounds",
    # words
    "no_subtitles_in_title": "the title has none",
    "sound_is_understood": "the sound is in a language of the household",
    "sound_is_foreign": "the sound is in no language of the household",
    "subtitles_never": "none are wished here",
    "subtitles_always": "wished here, in your language",
    "no_subtitles_of_yours": "none in a language of the household",
    "no_forced_lines": "only forced lines are wished, and none are known",
    "forced_wished": "only forced lines are wished here",
    "subtitles_drawn": "shown on every player, for good",
    "subtitles_track": "the device can switch it on; the picture stays as it is",
    "subtitles_file": "the device reads it beside the film",
    "lines_as_wished": "as wished here",
    # file
    "preferred_container": "what the device likes best",
    "container_for_streams": "it holds most streams as they are",
    "whole_title": "nothing is cut off",
    "cut_exact": "the first and the last picture are just those that were asked for, and the sound with them",
    "cut_edges": _cut_edges,
    "cut_edges_failed": "copied between encoded edges, it did not pass its checks; so all of it is converted",
    "cut_copied": _cut_copied,
    "cut_copied_unknown": "a copied stream can only begin at a key picture: the file begins with the nearest one",
    **WORKS,
    **ROOM,
    "chapters_kept": "kept",
    "no_chapters_in_title": "the title has none",
    "no_chapters_in_container": "{container} holds none",
    # faithful copies
    "faithful": "every track as it is on the source",
    "faithful_kept": "kept as it is",
    "samples_kept": "kept; LPCM goes in under another name, sample for sample",
    "holds_everything": "it holds every kind of track",
}
