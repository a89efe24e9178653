"""Software or hardware: hardware is taken where it was wished and can do it, and software stands behind it."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.core.planning.test_pins import PINS, PROFILES, planned
from tests.core.planning.test_pins import said as told
from tests.core.strategies import titles

from rheon.core.devices import DeviceProfile
from rheon.core.errors import BadPin, PlanError
from rheon.core.formats import HARDWARE, video_encoder
from rheon.core.media import Action, Fields, HardwareEncoder, Machine, Source, Title
from rheon.core.media.documents import dump, load
from rheon.core.planning import Plan, PlanRequest, plan, read_pins
from rheon.core.wording import sentence

ALL = tuple(
    HardwareEncoder(
        name=family.encoder(codec).name,
        family=name,
        codec=codec,
        device=f"/dev/{name}",
        depths=(8, 10) if family.encoder(codec).ten_bit_profile else (8,),
        pixels_per_s=500e6,
    )
    for name, family in HARDWARE.items()
    for codec in family.blocks
)
WISHES = st.tuples(st.sampled_from([None, "software", "hardware", *HARDWARE]), st.booleans())


@settings(max_examples=300, deadline=None)
@given(titles(), st.sampled_from(PROFILES), PINS, WISHES, st.sets(st.sampled_from(ALL)))
def test_hardware_is_taken_where_it_is_wished_and_can_and_software_can_always_make_the_same(
    title: Title,
    profile: DeviceProfile,
    pins: dict[str, str],
    wishes: tuple[str | None, bool],
    here: set[HardwareEncoder],
) -> None:
    wish, quick = wishes
    hardware = tuple(one for one in ALL if one in here)
    read = read_pins({**pins, **({"picture.encoder": wish} if wish else {})})
    request = PlanRequest(
        title=title,
        devices=(profile,),
        name="Film",
        pins=read,
        machine=Machine(encoders=hardware, prefers_speed=quick),
    )
    try:
        made = plan(request)
    except (BadPin, PlanError) as refused:
        assert refused.message.endswith((".", "?"))
        return
    assert load(Plan, dump(made)) == made
    video = made.settings.video if made.settings else None
    if video is None or video.action is Action.COPY:
        return
    used = next((one for one in hardware if (one.name, one.device) == (video.encoder, video.device)), None)
    shown = {decision.key: decision for decision in made.decisions}["picture.encoder"]
    assert sentence(shown.reason) and shown.value == (used.family if used else "software")
    assert bool(video.device) == bool(used)
    if used is None:
        assert video.encoder == video_encoder(video.codec).name and not (made.instead and not video.edges)
        able = [one for one in hardware if one.codec == video.codec and video.bit_depth in one.depths]
        if wish == "hardware" and able and video.fields is not Fields.KEEP:
            assert all(video.profile not in video_encoder(video.codec, one.name).written_profiles for one in able)
        return
    assert wish in ("hardware", used.family) or (quick and wish is None)
    assert used.codec == video.codec and video.bit_depth in used.depths and video.fields is not Fields.KEEP
    assert video.quality is None and video.bitrate_bps and video.bitrate_bps <= (video.peak_bps or 0)
    assert made.instead and made.instead.settings and made.instead.settings.video
    behind = made.instead.settings.video
    assert not behind.device and behind.encoder == video_encoder(video.codec).name and made.instead.instead is None
    assert (behind.codec, behind.fields, behind.crop) == (video.codec, video.fields, video.crop)
    assert {breach.rule for breach in made.instead.breaches} <= {breach.rule for breach in made.breaches} | {
        "peak_rate"
    }


def test_speed_costs_what_was_measured_here_and_takes_as_long_as_it_took_here(film_disc: Source) -> None:
    by_hand = read_pins({"picture.codec": "h264"})
    slow = planned(film_disc.titles[0], "heron-8", pins=by_hand)
    h264 = next(one for one in ALL if one.name == "h264_vaapi")

    def by(chip: HardwareEncoder) -> Plan:
        return planned(
            film_disc.titles[0], "heron-8", pins=by_hand, machine=Machine(encoders=(chip,), prefers_speed=True)
        )

    usual, measured = by(h264), by(replace(h264, size_share=1.6, pixels_per_s=5e9))
    assert slow.estimate and usual.estimate and measured.estimate
    assert usual.settings and usual.settings.video and measured.settings and measured.settings.video
    more = (measured.settings.video.bitrate_bps or 0) / (usual.settings.video.bitrate_bps or 1)
    assert more == pytest.approx(1.6 / 1.353, abs=0.01)
    assert measured.estimate.size_bytes > usual.estimate.size_bytes > slow.estimate.size_bytes
    assert measured.estimate.time_s < usual.estimate.time_s < slow.estimate.time_s
    # a chip was timed on this very machine: that the machine is slow does not make it slower once more
    machine = Machine(encoders=(replace(h264, pixels_per_s=1e6),), prefers_speed=True)
    at = [
        planned(film_disc.titles[0], "heron-8", pins=by_hand, machine=replace(machine, pace=pace)).estimate
        for pace in (1.0, 2.0)
    ]
    assert at[0] and at[1] and at[1].time_s == pytest.approx(at[0].time_s, rel=0.05)
    assert measured.settings.video.encoder == "h264_vaapi"
    assert told(measured)["picture.encoder"] == "graphics chip (VAAPI)"


@pytest.mark.parametrize(
    ("pins", "code"),
    [
        ({}, "encoder_quick"),
        ({"picture.encoder": "software"}, "pinned"),
        ({"picture.encoder": "nvenc"}, "encoder_absent"),
        ({"picture.rate": "quality:20"}, "encoder_set_by_hand"),
        ({"picture.preset": "slow"}, "encoder_set_by_hand"),
        ({"picture.passes": "2"}, "encoder_set_by_hand"),
        ({"picture.codec": "mpeg4"}, "encoder_only_software"),
    ],
)
def test_why_it_is_made_by_what_it_is_made_by(film_disc: Source, pins: dict[str, str], code: str) -> None:
    chip = tuple(one for one in ALL if one.family == "vaapi")
    pins = {"picture.codec": "h264", **pins}
    made = planned(
        film_disc.titles[0], "heron-8", pins=read_pins(pins), machine=Machine(encoders=chip, prefers_speed=True)
    )
    shown = {decision.key: decision for decision in made.decisions}["picture.encoder"]
    assert shown.reason.code == code


def test_what_only_software_does_can_t_be_asked_of_a_chip(film_disc: Source) -> None:
    pins = read_pins({"picture.codec": "h264", "picture.encoder": "hardware", "picture.rate": "quality:20"})
    with pytest.raises(BadPin, match="holds an average rate or a size"):
        planned(film_disc.titles[0], "heron-8", pins=pins, machine=Machine(encoders=ALL))
    assert planned(film_disc.titles[0], "heron-8", pins=pins).settings, "where there is none, software makes it"
