"""Several devices from as few files as can be, against trying everything."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.core.strategies import titles

from rheon.core.devices import DeviceProfile, Verdict, catalogue, judge
from rheon.core.devices.profile import Limits
from rheon.core.errors import PlanError
from rheon.core.media import Action, AudioStream, FileData, Source, Title
from rheon.core.planning import PlanRequest, plan, share_files
from rheon.core.planning.file.outcome import planned_facts
from rheon.demo.models import device

PROFILES = list(catalogue().values())


def request(title: Title, devices: Sequence[DeviceProfile]) -> PlanRequest:
    return PlanRequest(title=title, devices=tuple(devices), name="Film", languages=("en",))


def treatment(title: Title, devices: Sequence[DeviceProfile]) -> Verdict | None:
    try:
        return plan(request(title, devices)).treatment
    except PlanError:
        return None


def partitions(items: list[DeviceProfile]) -> Iterator[list[list[DeviceProfile]]]:
    """Every way to put devices into groups."""
    if not items:
        yield []
        return
    first, rest = items[0], items[1:]
    for smaller in partitions(rest):
        yield [[first], *smaller]
        for at in range(len(smaller)):
            yield [*smaller[:at], [first, *smaller[at]], *smaller[at + 1 :]]


def fewest(title: Title, devices: list[DeviceProfile]) -> int:
    made = (Verdict.CONVERT, Verdict.REWRAP)
    able = [groups for groups in partitions(devices) if all(treatment(title, group) in made for group in groups)]
    return min(map(len, able), default=0)


@settings(max_examples=60, deadline=None)
@given(titles(), st.lists(st.sampled_from(PROFILES), min_size=1, max_size=4, unique_by=lambda p: p.id))
def test_no_fewer_files_would_do(title: Title, devices: list[DeviceProfile]) -> None:
    found = share_files(request(title, devices))
    alone = {profile.id: treatment(title, [profile]) for profile in devices}
    assert {p.id for p in found.as_it_is} == {p for p, verdict in alone.items() if verdict is Verdict.PLAYS}
    wanting = [p for p in devices if alone[p.id] in (Verdict.CONVERT, Verdict.REWRAP)]
    served = [profile for file in found.files for profile in file.devices]
    assert sorted(p.id for p in served) == sorted(p.id for p in wanting)
    assert len(found.files) == fewest(title, wanting)
    for file in found.files:
        made, expected = file.plan.settings, file.plan.estimate
        assert made and expected
        for profile in file.devices:
            assert [r for r in judge(planned_facts(title, made, expected), profile) if not r.ok] == []


@pytest.mark.parametrize(("hours", "action"), [(29, Action.COPY), (30, Action.ENCODE)])
def test_sound_alone_is_copied_while_it_stays_inside_the_limit_for_one_file(hours: int, action: Action) -> None:
    track = AudioStream(index=0, codec="mp3", channels=2, sample_rate=48000, bitrate_bps=320_000)
    data = FileData(path="/nowhere")
    title = Title(number=1, duration_s=hours * 3600, size_bytes=1, data=data, container="wav", audio=(track,))
    limits = Limits(file_system="fat32")
    player = device("sound-only").model_copy(update={"limits": limits})
    made = plan(PlanRequest(title=title, devices=(player,), name="F"))
    assert made.settings is not None and made.estimate is not None
    assert made.settings.audio[0].action is action
    assert made.estimate.size_bytes < 4 << 30


def test_a_household_of_old_and_new_is_served_by_three_files(film_disc: Source) -> None:
    names = ("wren-6", "heron-8", "gannet-43", "sanderling-2", "plover-dash", "vp9-level-41")
    found = share_files(request(film_disc.titles[0], [device(name) for name in names]))
    groups = [sorted(profile.id for profile in file.devices) for file in found.files]
    assert groups == [["gannet-43", "heron-8", "sanderling-2", "wren-6"], ["plover-dash"], ["vp9-level-41"]]


def test_twenty_devices_are_no_trouble(film_disc: Source) -> None:
    found = share_files(request(film_disc.titles[0], PROFILES[:20]))
    assert sum(len(file.devices) for file in found.files) + len(found.as_it_is) == 20
    assert len(found.files) <= 3
