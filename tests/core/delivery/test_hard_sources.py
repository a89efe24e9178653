"""Real encodes of what is hard about sources: telecine, clips, holes, parts, words beside a file."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import numpy as np
import pytest
from tests.instruments.authored import Pictures
from tests.instruments.discs import Chain, Vob, author_dvd
from tests.instruments.engine import output_of
from tests.instruments.looked import looked_over
from tests.instruments.readback import hear, see

from rheon.core.analysis import survey_title
from rheon.core.delivery import Delivered, Order, convert
from rheon.core.engine import probe
from rheon.core.media import Source, Title
from rheon.core.planning import Balance, PlanRequest, plan, read_pins
from rheon.core.sources import read_source
from rheon.demo import scenario
from rheon.demo.models import device


def made_from(title: Title, folder: Path, *, size: str = "240", **pins: str) -> Delivered:
    """A file for a phone; pins have underlines for dots."""
    profile = device("heron-8")
    said = {key.replace("_", "."): value for key, value in pins.items()} | {"picture.size": size}
    set_by_hand = read_pins(said)
    request = PlanRequest(title=title, devices=(profile,), name="out", balance=Balance.LEAN, pins=set_by_hand)
    order = Order(title=title, plan=plan(request), devices=(profile,), folder=folder, token="depth")
    return convert(order)


def pictures_of(path: Path, crop: str = "null", *, at_s: float = 0.0, length_s: float = 60.0) -> np.ndarray:
    """Small grey pictures of a stretch of a file, one row each."""
    argv = ["ffmpeg", "-v", "error", "-ss", str(at_s), "-t", str(length_s), "-i", str(path), "-map", "0:v"]
    argv += ["-vf", f"{crop},scale=160:90,format=gray", "-f", "rawvideo", "pipe:1"]
    return np.frombuffer(output_of(argv), dtype=np.uint8).reshape(-1, 160 * 90).astype(np.int16)


def unlike(one: Path, other: Path, at_s: float) -> float:
    """How much the lower thirds of two files differ at a moment."""
    pictures = [pictures_of(path, "crop=iw:ih/3:0:ih*2/3", at_s=at_s, length_s=0.05)[0] for path in (one, other)]
    return float(np.abs(pictures[0] - pictures[1]).mean())


def test_a_telecined_film_comes_out_as_the_film_it_was(media: Path, tmp_path: Path) -> None:
    title = read_source(media / scenario.FERRY_LABEL).titles[0]
    title = looked_over(title)
    made = made_from(title, tmp_path)
    assert all(check.ok for check in made.checks)
    video = probe(str(made.path)).video
    assert video is not None
    assert float(video.frame_rate) == pytest.approx(24000 / 1001, abs=0.01)
    pictures = pictures_of(made.path)
    assert len(pictures) == pytest.approx(title.duration_s * 24000 / 1001, abs=3)
    steps = (np.abs(np.diff(pictures, axis=0)) > 12).mean(axis=1)
    # where the gulls fly they fly on in every frame: a repeated field left in would stop them once in five
    flying = np.median(steps[steps > 0]) / 4
    stops = [at for at in range(1, len(steps) - 1) if min(steps[at - 1], steps[at + 1]) > flying and steps[at] == 0]
    assert len(stops) <= len(steps) * 0.01


def test_noise_costs_a_film_in_fields_no_picture_and_its_sound_stays_with_it(tmp_path: Path) -> None:
    rate = Fraction(24000, 1001)
    spread = "noise=alls=24:allf=t,telecine=first_field=top:pattern=23"
    film = Vob(pictures=Pictures(count=144, rate=rate, size=(720, 480)), filters=spread, fields=True)
    disc = read_source(author_dvd([film], [Chain(parts=((0, 0, 0),))], tmp_path / "DISC"))
    made = made_from(looked_over(disc.titles[0]), tmp_path)
    seen = see(made.path)
    assert seen.numbers[:100] == tuple(range(100))
    assert len(set(seen.numbers)) == len(seen.numbers) >= 143
    offsets = hear(made.path, first_s=-seen.times[0]).offsets
    assert len(offsets) >= 4 and max(map(abs, offsets)) < float(1 / rate) / 2


def test_a_film_over_two_clips_becomes_one_file_with_its_subtitles_drawn_in(media: Path, tmp_path: Path) -> None:
    title = read_source(media / scenario.HERON_LABEL).titles[1]
    plain = made_from(title, tmp_path, size="360", sound_track="1", picture_preset="superfast")
    drawn = made_from(title, tmp_path, size="360", subtitles_track="0", picture_preset="superfast")
    for made in (plain, drawn):
        assert all(check.ok for check in made.checks)
        assert probe(str(made.path)).duration_s == pytest.approx(32, abs=0.3)
    apart = [unlike(plain.path, drawn.path, at_s) for at_s in (12.5, 15.5)]
    assert apart[1] > 2.5 * apart[0], "only where a line is shown are letters in the picture"


def test_a_damaged_stretch_costs_that_stretch(media: Path, tmp_path: Path) -> None:
    title = read_source(media / scenario.DAMAGED_LABEL).titles[0]
    made = made_from(title, tmp_path)
    assert all(check.ok for check in made.checks)
    found = probe(str(made.path))
    assert found.duration_s == pytest.approx(title.duration_s, abs=0.3)


def test_a_part_of_a_play_all_is_a_file_of_its_own(media: Path, tmp_path: Path) -> None:
    read = read_source(media / scenario.KEEPERS_REST_LABEL)
    second = next(title for title in read.titles if title.number == 102)
    made = made_from(second, tmp_path)
    found = probe(str(made.path))
    assert found.duration_s == pytest.approx(scenario.KEEPERS[1].duration_s, abs=0.3)
    assert len(found.chapters) == 2


def test_subtitles_beside_a_file_are_drawn_in_whatever_their_encoding(media: Path, tmp_path: Path) -> None:
    title = read_source(media / "Tide Watch").titles[0]
    made = [made_from(title, tmp_path, subtitles_track=choice) for choice in ("none", "0")]
    apart = [unlike(made[0].path, made[1].path, at_s) for at_s in (6.5, 2.5)]
    assert apart[1] > 2.5 * apart[0]


def test_sound_and_picture_stay_together_over_all_episodes_of_a_play_all(media: Path, tmp_path: Path) -> None:
    whole = read_source(media / scenario.KEEPERS_LABEL).titles[0]
    made = made_from(whole, tmp_path)
    assert all(check.ok for check in made.checks)
    ends = [_last_pts(made.path, kind) for kind in ("v", "a")]
    assert ends[0] == pytest.approx(ends[1], abs=0.2)
    # each episode begins with the same three seconds of melody: it must come at each episode's own time
    starts = [0.0]
    for episode in scenario.KEEPERS[:-1]:
        starts.append(starts[-1] + episode.duration_s)
    first = _sound(made.path, starts[0])
    for start in starts[1:]:
        assert _delay(first, _sound(made.path, start)) == pytest.approx(0, abs=0.08)


def test_black_borders_are_gone_from_the_file(film_disc: Source, tmp_path: Path) -> None:
    title = film_disc.titles[3]
    made = made_from(looked_over(title), tmp_path, size="360")
    assert all(check.ok for check in made.checks)
    video = probe(str(made.path)).video
    assert video is not None
    assert (video.width, video.height) == (854, 360)
    found = survey_title(read_source(made.path).titles[0]).borders
    assert found is not None
    assert not found.any


def test_every_kind_of_sound_on_a_dvd_comes_out_as_itself(tmp_path: Path) -> None:
    tones = {"ac3": 300, "dca": 400, "pcm_dvd": 500, "mp2": 600}
    argv = ["ffmpeg", "-v", "error", "-f", "lavfi", "-i", "testsrc2=size=352x288:rate=25:duration=5"]
    for tone in tones.values():
        argv += ["-f", "lavfi", "-i", f"sine=frequency={tone}:sample_rate=48000:duration=5"]
    for number, codec in enumerate(tones):
        argv += [f"-c:a:{number}", codec]
    maps = [part for number in range(len(tones) + 1) for part in ("-map", str(number))]
    stream = tmp_path / "sounds.mpg"
    output_of([*argv, *maps, "-c:v", "mpeg2video", "-ac", "2", "-strict", "-2", "-f", "dvd", str(stream)])
    audio = "".join(
        f'<audio format="{name}" lang="{tag}"/>'
        for name, tag in (("ac3", "en"), ("dts", "fr"), ("pcm", "es"), ("mp2", "de"))
    )
    recipe = tmp_path / "disc.xml"
    recipe.write_text(
        f'<dvdauthor dest="{tmp_path / "DISC"}"><vmgm/><titleset><titles><video format="pal" aspect="4:3"/>{audio}'
        f'<pgc><vob file="{stream}"/></pgc></titles></titleset></dvdauthor>'
    )
    output_of(["env", "VIDEO_FORMAT=PAL", "dvdauthor", "-x", str(recipe)])
    read = read_source(tmp_path / "DISC")
    assert read.problems == ()
    title = read.titles[0]
    assert [(t.codec, t.language) for t in title.audio] == [
        ("ac3", "en"), ("dts", "fr"), ("pcm_dvd", "es"), ("mp2", "de"),
    ]  # fmt: skip
    for track, tone in enumerate(tones.values()):
        made = made_from(title, tmp_path, sound_track=str(track), range_keep="0:00-0:04", picture_preset="superfast")
        heard = np.abs(np.fft.rfft(_sound(made.path, 1.0)))
        assert np.argmax(heard) / 3 == pytest.approx(tone, abs=2)


def _last_pts(path: Path, kind: str) -> float:
    argv = ["ffprobe", "-v", "error", "-select_streams", kind, "-show_entries", "packet=pts_time", "-of", "csv=p=0"]
    said = output_of([*argv, str(path)]).decode().split()
    return max(float(line.strip(",")) for line in said)


def _sound(path: Path, at_s: float) -> np.ndarray:
    argv = ["ffmpeg", "-v", "error", "-i", str(path), "-ss", str(at_s), "-t", "3", "-vn", "-ac", "1", "-ar", "8000"]
    return np.frombuffer(output_of([*argv, "-f", "s16le", "pipe:1"]), dtype=np.int16).astype(float)


def _delay(one: np.ndarray, other: np.ndarray) -> float:
    """By how many seconds the envelope of one lies behind the other's."""
    length = min(len(one), len(other)) // 80 * 80
    envelopes = [np.abs(sound[:length]).reshape(-1, 80).mean(axis=1) for sound in (one, other)]
    envelopes = [envelope - envelope.mean() for envelope in envelopes]
    product = np.correlate(envelopes[0], envelopes[1], mode="full")
    return abs(int(np.argmax(product)) - (len(envelopes[1]) - 1)) / 100
