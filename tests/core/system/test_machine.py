"""What the machine tells of its power and heat, and the cores that work is kept to."""

from __future__ import annotations

import os
import subprocess
import sys
import threading
from collections.abc import Iterator
from pathlib import Path

import pytest

from rheon.core.system import Power, cores, is_hot, keep_to_cores, power

Facts = dict[str, dict[str, str]]


def lay_out(root: Path, facts: Facts) -> Path:
    for name, files in facts.items():
        (root / name).mkdir(parents=True)
        for file, text in files.items():
            (root / name / file).write_text(f"{text}\n")
    return root


BATTERY = {"type": "Battery", "scope": "System"}


@pytest.mark.parametrize(
    ("supplies", "has_battery", "on_battery"),
    [
        ({}, False, False),
        ({"AC": {"type": "Mains", "online": "1"}}, False, False),
        ({"AC": {"type": "Mains", "online": "0"}, "BAT0": BATTERY | {"status": "Discharging"}}, True, True),
        ({"AC": {"type": "Mains", "online": "1"}, "BAT0": BATTERY | {"status": "Charging"}}, True, False),
        # a weak charger: the battery gives something too, but the machine is not alone with it
        ({"AC": {"type": "Mains", "online": "1"}, "BAT0": BATTERY | {"status": "Discharging"}}, True, False),
        ({"usb": {"type": "USB", "online": "1"}, "BAT0": BATTERY | {"status": "Discharging"}}, True, False),
        ({"BAT0": {"type": "Battery", "status": "Full"}}, True, False),
        ({"BAT0": BATTERY | {"status": "Not charging"}, "BAT1": BATTERY | {"status": "Discharging"}}, True, True),
        ({"mouse": {"type": "Battery", "scope": "Device", "status": "Discharging"}}, False, False),
        ({"broken": {}}, False, False),
    ],
)
def test_a_machine_lives_on_its_battery_when_that_drains_and_nothing_feeds_it(
    supplies: Facts, has_battery: bool, on_battery: bool, tmp_path: Path
) -> None:
    assert power(lay_out(tmp_path, supplies)) == Power(has_battery=has_battery, on_battery=on_battery)


def test_where_nothing_tells_of_power_or_heat_there_is_none(tmp_path: Path) -> None:
    nowhere = tmp_path / "none"
    assert power(nowhere) == Power(has_battery=False, on_battery=False)
    assert not is_hot(False, nowhere)
    (tmp_path / "file").write_text("")
    assert not is_hot(True, tmp_path / "file")


def zone(now: str, *trips: tuple[str, str]) -> dict[str, str]:
    told = {"type": "x86_pkg_temp", "temp": now}
    for number, (kind, point) in enumerate(trips):
        told |= {f"trip_point_{number}_type": kind, f"trip_point_{number}_temp": point}
    return told


@pytest.mark.parametrize(
    ("now", "trips", "begins", "goes_on"),
    [
        ("92001", [("passive", "80000"), ("critical", "100000")], True, True),
        ("92000", [("passive", "80000"), ("critical", "100000")], False, True),
        ("80001", [("critical", "100000")], False, True),
        ("80000", [("critical", "100000")], False, False),
        ("90000", [("hot", "95000"), ("critical", "105000")], True, True),
        ("90000", [("passive", "80000"), ("active", "70000")], False, False),
        ("", [("critical", "100000")], False, False),
        ("95000", [("critical", "-274000")], False, False),
        ("95000", [("critical", "100000"), ("hot", "none")], True, True),
    ],
)
def test_heat_begins_near_the_last_point_and_ends_well_below_it(
    now: str, trips: list[tuple[str, str]], begins: bool, goes_on: bool, tmp_path: Path
) -> None:
    zones = lay_out(tmp_path, {"thermal_zone0": zone("41000", ("critical", "100000")), "zone1": zone(now, *trips)})
    assert (is_hot(False, zones), is_hot(True, zones)) == (begins, goes_on)


@pytest.fixture
def all_cores() -> Iterator[tuple[int, ...]]:
    known = cores()
    if len(known) < 2:
        pytest.skip("this machine has one core")
    yield known
    keep_to_cores(len(known))


def test_work_that_runs_already_is_kept_to_fewer_cores_and_given_them_back(all_cores: tuple[int, ...]) -> None:
    rest = threading.Event()
    thread = threading.Thread(target=rest.wait)
    thread.start()
    asleep = "import subprocess, time; subprocess.run(['sleep', '60'])"
    child = subprocess.Popen([sys.executable, "-c", asleep], stdout=subprocess.PIPE)
    try:
        while not (grandchildren := children(child.pid)):
            pass
        everybody = [0, thread.native_id or 0, child.pid, *grandchildren]
        for count in (1, len(all_cores), 0, len(all_cores) + 5):
            keep_to_cores(count)
            allowed = [tuple(sorted(os.sched_getaffinity(pid))) for pid in everybody]
            assert allowed == [all_cores[-min(max(1, count), len(all_cores)) :]] * len(everybody)
            assert cores() == all_cores
    finally:
        rest.set()
        for pid in grandchildren:
            os.kill(pid, 9)
        child.wait()


def children(pid: int) -> list[int]:
    said = Path(f"/proc/{pid}/task/{pid}/children").read_text()
    return [int(one) for one in said.split()]
