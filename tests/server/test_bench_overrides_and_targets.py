from __future__ import annotations

import asyncio
import json
import threading
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from PIL import Image
from tests.instruments.readback import see

from rheon.core.commands.comparing import Model
from rheon.core.encoding import Fidelity, Grown, Reference, Stretch, measured_rate
from rheon.core.engine import probe
from rheon.core.errors import EngineError
from rheon.core.media import OutputSettings
from rheon.core.planning.picture.rate_search import MOST_TRIES
from rheon.server.bench.actions import excerpts, fidelity, rate_search
from rheon.server.bench.models import CellOverride, PinSet, Target
from rheon.server.live.snapshot import snapshot
from rheon.server.outbox.models import Output
from rheon.server.shelf.models import Source
from rheon.server.worklist.actions.run import run_next
from rheon.server.worklist.models import Job

Api = Callable[..., Any]
Shelf = Callable[[str], Source]


def sheet(api: Api, title: int, device: int, **change: Any) -> Any:
    address = f"bench/plans/{title}/{device}"
    status, document = api("patch", address, change) if change else api("get", address)
    assert status == 200, document
    return document


def said(document: Any) -> dict[str, str]:
    return {decision["key"]: decision["text"] for decision in document["decisions"]}


def test_a_pin_against_a_rule_is_marked_with_what_will_happen_and_made_all_the_same(
    shelf: Shelf, household: list[int], api: Api
) -> None:
    extra = shelf("MARRAM_NIGHTS").titles.get(number=4)
    pins = {"picture.codec": "mpeg4", "picture.size": "180"}
    marked = sheet(api, extra.pk, household[1], pins=pins)
    assert [(b["device"], b["rule"], b["consequence"]) for b in marked["breaches"]] == [
        ("Heron 8", "video codec", "it will show no picture")
    ]
    codec = next(decision for decision in marked["decisions"] if decision["key"] == "picture.codec")
    assert (codec["pinned"], len(codec["broken"])) == (True, 1)
    cell = next(c for c in api("get", f"bench/cells?titles={extra.pk}")[1] if c["target_id"] == household[1])
    assert (cell["broken"], cell["by_hand"]) == (1, True)
    api("post", "worklist/jobs", {"cells": [{"title_id": extra.pk, "target_id": household[1]}]})
    run_next()
    rules = {rule["rule"]: rule["ok"] for rule in Output.objects.get().checks[0]["results"]}
    assert (rules["video_codec"], rules["planned_picture"]) == (False, True)


def test_what_a_change_moved_is_told_with_its_reason(shelf: Shelf, household: list[int], api: Api) -> None:
    film = shelf("MARRAM_NIGHTS").titles.get(number=1)
    changed = sheet(api, film.pk, household[1], pins={"file.container": "webm"})
    moved = {move["label"]: (move["before"], move["after"]) for move in changed["changed"]}
    assert moved["Codec"] == ("H.264 High @ 3.1", "VP9 profile 0 @ 3")
    assert all(move["reason"] for move in changed["changed"] if move["after"])
    assert sheet(api, film.pk, household[1])["changed"] == []


def test_pins_are_carried_to_siblings_by_what_they_mean(shelf: Shelf, household: list[int], api: Api) -> None:
    disc = shelf("LANTERN_STREET_S1.iso")
    episodes = list(disc.titles.filter(role="episode"))
    first, rest = episodes[0], episodes[1:]
    assert len(rest) >= 2
    pins = {"picture.size": "240", "sound.channels": "1", "file.name": "Only this"}
    sheet(api, first.pk, household[1], balance="lean", pins=pins)
    status, done = api("post", f"bench/plans/{first.pk}/{household[1]}/transfer", {"to": "siblings"})
    assert (status, done) == (200, {"count": len(rest), "left": []})
    for title in rest:
        row = CellOverride.objects.get(title=title, target_id=household[1])
        assert (row.balance, row.pins) == ("lean", {"picture.size": "240", "sound.channels": "1"})


def test_pins_are_kept_under_a_name_used_again_and_given_away(
    shelf: Shelf, household: list[int], api: Api, client: Any
) -> None:
    film = shelf("MARRAM_NIGHTS").titles.get(number=1)
    sheet(api, film.pk, household[1], balance="full", pins={"sound.gain": "3", "file.name": "Mine"})
    kept = api("post", f"bench/plans/{film.pk}/{household[1]}/sets", {"name": "Our usual"})[1]
    assert [(entry["name"], entry["pins"]) for entry in kept["sets"]] == [("Our usual", 1)]
    number = kept["sets"][0]["id"]
    text = client.get(f"/api/bench/sets/{number}/pins.json").content.decode()
    assert json.loads(text) == {
        "format": "rheon-pins-1", "name": "Our usual", "balance": "full", "pins": {"sound.gain": "3"},
    }  # fmt: skip
    api("delete", f"bench/sets/{number}")
    assert api("post", "bench/sets", {"document": text})[0] == 201
    status, applied = api("put", f"bench/plans/{film.pk}/{household[2]}/sets/{PinSet.objects.get().pk}")
    assert (status, applied["balance"], said(applied)["sound.gain"]) == (200, "full", "+3.0 dB")
    bad = text.replace("sound.gain", "sound.colour").replace("full", "fat")
    status, refused = api("post", "bench/sets", {"document": bad})
    assert (status, refused["code"]) == (422, "bad_pin")
    assert "balance" in refused["message"] and "sound.colour" in refused["message"]


def test_what_plays_as_it_is_can_be_turned_and_given_its_shape(shelf: Shelf, household: list[int], api: Api) -> None:
    kite = shelf("camera/Kite day.mp4").titles.get()
    plain = sheet(api, kite.pk, household[0])
    assert (plain["treatment"], plain["decisions"]) == ("plays", [])
    shaping = {one["key"]: one for one in plain["framing"]["shaping"]}
    assert list(shaping) == ["picture.aspect", "picture.rotation", "picture.screen_fit"]
    assert all(one["choices"] for one in shaping.values())
    assert (shaping["picture.aspect"]["text"], shaping["picture.rotation"]["text"]) == ("16:9", "not turned")
    turned = sheet(api, kite.pk, household[0], pins={"picture.rotation": "90"})
    assert (turned["treatment"], turned["framing"]["rotation"]) == ("convert", 90)
    assert turned["frame"]["width"] < turned["frame"]["height"]
    assert turned["reason"] == "it would fit as it is; its picture is made anew for what was set by hand"
    assert sheet(api, kite.pk, household[0], pins={"picture.rotation": None})["treatment"] == "plays"
    columns = api("post", "bench/targets", {"goal_id": "faithful-copy"})[1]["targets"]
    copy = next(column["id"] for column in columns if column["kind"] == "goal")
    assert sheet(api, kite.pk, copy)["framing"] is None


def test_what_was_set_and_can_not_be_meant_any_more_is_taken_back_alone(
    shelf: Shelf, household: list[int], api: Api
) -> None:
    film = shelf("MARRAM_NIGHTS").titles.get(number=1)
    address = f"bench/plans/{film.pk}/{household[1]}"
    # as after two tracks were gone
    pins = {"words.subtitle": "9", "sound.track": "7", "picture.size": "360"}
    row = CellOverride.objects.create(title=film, target_id=household[1], balance="lean", pins=pins)
    assert api("get", address)[0] == 422
    status, left = api("delete", address)
    assert (status, left["pins"], left["balance"]) == (200, ["picture.size"], "lean")
    row.refresh_from_db()
    assert row.pins == {"picture.size": "360"}
    assert api("delete", address)[1]["pins"] == ["picture.size"]


def test_verdicts_say_which_devices_play_a_file_rule_by_rule(shelf: Shelf, household: list[int], api: Api) -> None:
    kite = shelf("camera/Kite day.mp4").titles.get()
    found = api("get", f"bench/titles/{kite.pk}/verdicts")[1]["devices"]
    verdicts = {entry["device_id"]: entry["verdict"] for entry in found}
    assert verdicts[household[0]] == "plays"
    rules = {rule["rule"]: rule for rule in found[0]["rules"]}
    assert rules["picture"]["measured"] and rules["picture"]["allowed"].startswith("up to")
    film = shelf("MARRAM_NIGHTS").titles.get(number=1)
    broken = [
        r["rule"] for r in api("get", f"bench/titles/{film.pk}/verdicts")[1]["devices"][0]["rules"] if not r["ok"]
    ]
    assert "video codec" in broken


def test_several_devices_are_served_by_the_fewest_files_and_told_what_that_costs(
    shelf: Shelf, household: list[int], api: Api
) -> None:
    film = shelf("MARRAM_NIGHTS").titles.get(number=1)
    phone, tablet, pocket, _ = household
    found = api("get", f"bench/titles/{film.pk}/sharing?devices={phone},{tablet},{pocket}")[1]
    assert [sorted(entry["device_ids"]) for entry in found["files"]] == [sorted([phone, tablet, pocket])]
    assert found["files"][0]["costs"] == [
        "Wren 6 gets 270 lines instead of 480",
        "Heron 8 gets 270 lines instead of 480",
    ]
    table = api("post", "bench/targets", {"device_ids": [phone, pocket]})[1]
    shared = next(column for column in table["targets"] if column["kind"] == "shared")
    made = sheet(api, film.pk, shared["id"])
    assert made["treatment"] == "convert"
    again = api("post", "bench/targets", {"device_ids": [pocket, phone]})[1]
    assert len(again["targets"]) == len(table["targets"])
    assert api("post", "bench/targets", {"device_ids": [phone]})[0] == 422
    api("delete", f"household/devices/{pocket}")
    assert not Target.objects.filter(kind="shared").exists()


def test_a_shared_file_is_one_job_checked_for_each_of_its_devices(shelf: Shelf, household: list[int], api: Api) -> None:
    extra = shelf("MARRAM_NIGHTS").titles.get(number=4)
    table = api("post", "bench/targets", {"device_ids": household[:3]})[1]
    shared = next(column for column in table["targets"] if column["kind"] == "shared")
    api("post", "worklist/jobs", {"cells": [{"title_id": extra.pk, "target_id": shared["id"]}]})
    run_next()
    output = Output.objects.get()
    assert [check["device_name"] for check in output.checks] == ["Wren 6", "Heron 8", "Sanderling 2"]
    assert all(rule["ok"] for check in output.checks for rule in check["results"])


def test_goals_stand_on_the_bench_like_devices(shelf: Shelf, household: list[int], api: Api) -> None:
    extra = shelf("MARRAM_NIGHTS").titles.get(number=4)
    assert {goal["id"] for goal in api("get", "bench/goals")[1]} >= {"most-compatible", "faithful-copy"}
    table = api("post", "bench/targets", {"goal_id": "sound-as-opus"})[1]
    goal = next(column for column in table["targets"] if column["kind"] == "goal")
    api("post", "worklist/jobs", {"cells": [{"title_id": extra.pk, "target_id": goal["id"]}]})
    run_next()
    assert Path(Output.objects.get().path).suffix == ".opus"
    assert api("delete", f"bench/targets/{household[0]}")[0] == 404
    assert api("delete", f"bench/targets/{goal['id']}")[0] == 200
    assert api("post", "bench/targets", {"goal_id": "toast"})[0] == 422


def test_a_goal_that_is_not_shipped_any_more_is_left_out_and_told(shelf: Shelf, household: list[int], api: Api) -> None:
    extra = shelf("MARRAM_NIGHTS").titles.get(number=4)
    gone = Target.objects.create(kind="goal", goal="wax-cylinder")
    assert gone.pk not in [target["id"] for target in api("get", "bench")[1]["targets"]]
    assert all(cell["target_id"] != gone.pk for cell in api("get", f"bench/cells?titles={extra.pk}")[1])
    status, said = api("get", f"bench/plans/{extra.pk}/{gone.pk}")
    assert (status, said["message"]) == (
        422, "There is no goal called wax-cylinder. See 'rheon devices' for the ones there are."
    )  # fmt: skip


def test_the_room_for_a_shared_file_is_that_of_its_fullest_device(shelf: Shelf, household: list[int], api: Api) -> None:
    shelf("MARRAM_NIGHTS")
    for device, free_bytes in zip(household, (9_000_000, 1_000), strict=False):
        api("patch", f"household/devices/{device}", {"free_bytes": free_bytes})
    table = api("post", "bench/targets", {"device_ids": household[:3]})[1]
    shared = next(target for target in table["targets"] if target["kind"] == "shared")
    assert (shared["free_bytes"], shared["name"]) == (1_000, "Wren 6 + Heron 8 + Sanderling 2")
    api("patch", f"household/devices/{household[0]}", {"name": "Ada's phone"})
    named = next(target["name"] for target in api("get", "bench")[1]["targets"] if target["id"] == shared["id"])
    assert named.startswith("Ada's phone + ")


def test_free_space_and_usual_devices_show_on_the_bench(shelf: Shelf, household: list[int], api: Api) -> None:
    extra = shelf("MARRAM_NIGHTS").titles.get(number=4)
    api("patch", f"household/devices/{household[2]}", {"free_bytes": 1000})
    cells = {c["target_id"]: c["too_large"] for c in api("get", f"bench/cells?titles={extra.pk}")[1]}
    assert (cells[household[2]], cells[household[1]]) == (True, False)
    api("post", "worklist/jobs", {"cells": [{"title_id": extra.pk, "target_id": household[3]}]})
    assert next(column["id"] for column in api("get", "bench")[1]["targets"]) == household[3]


def size_of(client: Any, address: str, folder: Path) -> tuple[int, int]:
    answer = client.get(f"/api/{address}")
    assert answer.status_code == 200, answer.content
    path = folder / "frame.jpg"
    path.write_bytes(answer.content)
    with Image.open(path) as picture:
        return picture.size


@pytest.mark.parametrize(
    ("pins", "wanted"), [({}, (854, 480)), ({"picture.size": "240", "picture.crop": "60,60,0,0"}, (568, 240))]
)
def test_the_sheet_shows_the_picture_before_and_as_it_will_be(
    shelf: Shelf,
    household: list[int],
    api: Api,
    client: Any,
    tmp_path: Path,
    pins: dict[str, str],
    wanted: tuple[int, int],
) -> None:
    film = shelf("MARRAM_NIGHTS").titles.get(number=1)
    sheet(api, film.pk, household[1], pins=pins)
    address = f"bench/plans/{film.pk}/{household[1]}/moments/2500"
    assert size_of(client, f"{address}/before.jpg", tmp_path) == (854, 480)
    assert size_of(client, f"{address}/after.jpg", tmp_path) == wanted


def test_seconds_of_the_file_are_played_before_it_is_made_and_beside_them_the_source(
    shelf: Shelf, household: list[int], api: Api, client: Any, settings: Any
) -> None:
    extra = shelf("MARRAM_NIGHTS").titles.get(number=4)
    marks = [
        sheet(api, extra.pk, household[1], pins={"picture.size": size})["settings_mark"] for size in ("240", "180")
    ]
    assert marks[0] != marks[1]
    address = f"/api/bench/plans/{extra.pk}/{household[1]}/moments/2500/excerpt.mp4"
    for asked in (address, f"{address}?source"):
        part = client.get(asked, headers={"Range": "bytes=0-0"})
        assert (part.status_code, part.headers["Content-Type"]) == (206, "video/mp4"), part.content
    made = {path.stem.rpartition("-")[2]: see(path) for path in (settings.RHEON_CACHE / "excerpts").iterdir()}
    assert len(made["made"].times) > 150
    assert made["made"].times == pytest.approx(made["source"].times, abs=0.002)
    seen = probe(str(next((settings.RHEON_CACHE / "excerpts").glob("*-made.mp4"))))
    assert seen.video and (seen.video.height, len(seen.audio)) == (180, 1)
    assert client.get(address.replace(str(household[1]), "99999")).status_code == 404
    refused = [client.get(f"{address}?{asked}") for asked in ("subtitle=7", "sound=9", "sound=first", "subtitle=-1")]
    assert [one.status_code for one in refused] == [404, 404, 400, 400]
    assert "no such track" in refused[0].content.decode() and "numbers" in refused[2].content.decode()


def test_seconds_play_while_they_are_made_unless_others_are_wanted(
    shelf: Shelf, household: list[int], client: Any, settings: Any, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    film = shelf("MARRAM_NIGHTS").titles.get(number=1)

    def played(at_ms: int) -> Any:
        address = f"/api/bench/plans/{film.pk}/{household[1]}/moments/{at_ms}/excerpt.mp4"
        found = client.get(address, headers={"Range": "bytes=0-"})
        assert found.status_code == 200 and "Content-Length" not in found.headers
        return found.streaming_content

    async def all_of(chunks: Any) -> bytes:
        return b"".join([chunk async for chunk in chunks])

    given = tmp_path / "given.mp4"
    given.write_bytes(asyncio.run(all_of(played(2500))))
    kept = next((settings.RHEON_CACHE / "excerpts").glob("*-made.mp4"))
    assert see(given).numbers == see(kept).numbers and len(see(kept).times) == 300
    left, wanted = played(40_000), played(60_000)
    assert len(asyncio.run(all_of(left))) < len(asyncio.run(all_of(wanted)))
    opened = threading.Event()

    def break_off(request: object, path: object, work: Path, hooks: object, grown: Callable[[Grown], None]) -> None:
        (some := work / "some.mp4").write_bytes(b"some")
        grown(Grown(path=some, written_s=9, of_s=10, rate=2))
        assert opened.wait(20)
        raise EngineError("It broke.")

    monkeypatch.setattr(excerpts, "make_excerpt", break_off)
    broken = played(90_000)
    opened.set()
    with pytest.raises(ConnectionAbortedError):
        asyncio.run(all_of(broken))


@pytest.mark.thorough
def test_what_each_balance_keeps_is_measured_when_asked_and_a_rate_found_for_a_fidelity(
    shelf: Shelf, household: list[int], api: Api, monkeypatch: pytest.MonkeyPatch
) -> None:
    # nobody asks after it here while it is measured
    monkeypatch.setattr(fidelity, "WATCHED_S", 600)
    extra = shelf("MARRAM_NIGHTS").titles.get(number=4)
    address = f"bench/plans/{extra.pk}/{household[1]}"
    _, before = api("get", f"{address}/trade-off")
    assert (before["possible"], before["measuring"], before["scores"]) == (True, False, [])
    status, refused = api("put", f"{address}/fidelity", {"score": 90})
    assert status == 422 and "Measure" in refused["message"]
    assert api("post", f"{address}/trade-off", {})[1]["measuring"]
    stopped = api("delete", f"{address}/trade-off")[1]
    fidelity.measure_now(extra.pk, household[1])
    assert api("get", f"{address}/trade-off")[1] == stopped
    assert (stopped["measuring"], stopped["failed"], stopped["scores"]) == (False, False, [])
    assert api("post", f"{address}/trade-off", {})[1]["measuring"]
    fidelity.measure_now(extra.pk, household[1])
    _, known = api("get", f"{address}/trade-off")
    means = [score["mean"] for score in known["scores"]]
    assert [score["balance"] for score in known["scores"]] == ["lean", "light", "even", "full", "rich"]
    assert (known["measuring"], known["failed"], known["measure"]) == (False, False, "VMAF")
    assert means[0] < means[2] <= means[4]
    assert all(score["worst"] <= score["mean"] for score in known["scores"])
    # kept by content: another row of the same file and screen need not be measured again
    assert api("post", f"{address}/trade-off", {})[1] == known
    wanted = (means[0] + means[2]) / 2
    status, found = api("put", f"{address}/fidelity", {"score": wanted})
    rate = next(decision for decision in found["decisions"] if decision["key"] == "picture.rate")
    assert status == 200 and rate["pinned"] and 21 <= int(rate["value"].partition(":")[2]) <= 27
    status, refused = api("put", f"{address}/fidelity", {"score": 1})
    assert status == 422 and "Between what was measured" in refused["message"]


def test_a_fidelity_that_is_asked_for_is_tried_until_it_is_met_unless_somebody_else_sets_the_rate(
    shelf: Shelf, household: list[int], api: Api, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(fidelity, "WATCHED_S", 600)
    tried: list[int] = []
    meanwhile: list[str] = []

    def keeps(title: Any, made: Any, *more: Any) -> Fidelity:
        """The even preset keeps more than what is expected between the balances, which have presets of their own."""
        quality = made.video.quality
        mean = 100.0 - (quality - 15) ** 2 / 10 + (2.0 if searching else 0.0)
        if searching:
            tried.append(quality)
            for pin in meanwhile:
                sheet(api, film.pk, household[1], pins={"picture.rate": pin})
        return Fidelity(model=Model.HD, scores=(mean,) * 30, seconds=8.0, size_bytes=10**5)

    searching = False
    monkeypatch.setattr(fidelity, "measure_fidelity", keeps)
    monkeypatch.setattr(fidelity, "reference_in", lambda work, *more: Reference(path=work / "source.mkv"))
    film = shelf("MARRAM_NIGHTS").titles.get(number=1)
    address = f"bench/plans/{film.pk}/{household[1]}"
    api("post", f"{address}/trade-off", {})
    fidelity.measure_now(film.pk, household[1])
    searching = True
    status, first = api("put", f"{address}/fidelity", {"score": 93.0})
    assert status == 200 and said(first)["picture.rate"] == "constant quality 23"
    assert api("get", f"{address}/trade-off")[1]["measuring"]
    rate_search.find_rate_now(film.pk, household[1], 93.0, 23)
    met = api("get", f"{address}/trade-off")[1]
    assert not met["measuring"] and abs(met["by_hand"]["mean"] - 93.0) < 1
    assert tried[0] == 23 and len(set(tried)) <= MOST_TRIES
    assert said(sheet(api, film.pk, household[1]))["picture.rate"] != "constant quality 23"
    # somebody else's choice stands
    meanwhile.append("average:500")
    _, again = api("put", f"{address}/fidelity", {"score": 96.5})
    quality = int(said(again)["picture.rate"].rpartition(" ")[2])
    monkeypatch.setattr(fidelity, "VERSION", fidelity.VERSION + 1)  # nothing is known of it
    rate_search.find_rate_now(film.pk, household[1], 96.5, quality)
    assert sheet(api, film.pk, household[1])["pins"] == ["picture.rate"]
    # also what was set before the search began
    rate_search.find_rate_now(film.pk, household[1], 96.5, quality)
    assert "500 kb/s" in said(sheet(api, film.pk, household[1]))["picture.rate"]


def test_the_lines_that_keep_most_are_proposed_and_finer_balances_are_not_tried_in_vain(
    shelf: Shelf, household: list[int], api: Api, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(fidelity, "WATCHED_S", 600)
    tried: list[tuple[int, int | None]] = []

    def keeps(title: Any, made: Any, *more: Any) -> Fidelity:
        """Fewer lines keep more at two balances and at the rate by hand, even fewer at the leanest alone."""
        video = made.video
        tried.append((video.height, video.quality))
        mean = 70.0 if video.quality is None else 100.0 - video.quality
        if video.height == 360:
            mean += 2 if video.quality is None or video.quality > 18 else -8
        elif video.height == 240:
            mean += -1 if video.quality == 18 else -15
        return Fidelity(model=Model.HD, scores=(mean,) * 30, seconds=8.0, size_bytes=10**5)

    monkeypatch.setattr(fidelity, "measure_fidelity", keeps)
    monkeypatch.setattr(fidelity, "reference_in", lambda work, *more: Reference(path=work / "source.mkv"))
    film = shelf("MARRAM_NIGHTS").titles.get(number=1)
    address = f"bench/plans/{film.pk}/{household[1]}"
    sheet(api, film.pk, household[1], balance="lean", pins={"picture.rate": "average:500"})
    assert api("post", f"{address}/trade-off", {})[1]["missing"] == 7
    fidelity.measure_now(film.pk, household[1])
    known = api("get", f"{address}/trade-off")[1]
    assert [one["balance"] for one in known["smaller"]] == ["lean", "light", None]
    assert [one["lines"] for one in known["smaller"]] == [240, 360, 360]
    assert known["missing"] == known["more"] == 0 and not known["measuring"]
    first, again = tried[:13], tried[13:]  # the last of each number of lines says that there is nothing more to gain
    assert len(set(first)) == 6 + (1 + 3) + (1 + 2)
    assert len(again) == 6 + 3 and set(again) < set(first)
    assert {lines for lines, _ in again} == {480, 360, 240}
    sheet(api, film.pk, household[1], pins={"picture.rate": None})
    used = sheet(api, film.pk, household[1], pins=known["smaller"][0]["pins"])
    assert said(used)["picture.size"] == "426 × 240" and "18" in said(used)["picture.rate"]
    assert api("get", f"{address}/trade-off")[1]["smaller"] == []  # set by hand, it is left alone


def test_sizes_are_told_by_the_seconds_that_were_made_wherever_they_are_told(
    shelf: Shelf, household: list[int], api: Api, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(fidelity, "WATCHED_S", 600)
    seconds = [Stretch(pictures=101, first_bytes=40_000, others_bytes=100 * more) for more in (4000, 5000, 5000, 6000)]

    made: list[OutputSettings] = []

    def keeps(title: Any, settings: OutputSettings, *more: Any) -> Fidelity:
        made.append(settings)
        return Fidelity(model=Model.HD, scores=(90.0,) * 30, seconds=8.0, size_bytes=10**5, stretches=tuple(seconds))

    monkeypatch.setattr(fidelity, "measure_fidelity", keeps)
    monkeypatch.setattr(fidelity, "reference_in", lambda work, *more: Reference(path=work / "source.mkv"))
    film = shelf("MARRAM_NIGHTS").titles.get(number=1)
    place = f"{film.pk}/{household[1]}"
    before = sheet(api, film.pk, household[1])["estimate"]
    mark = snapshot().marks.bench
    api("post", f"bench/plans/{place}/trade-off", {})
    fidelity.measure_now(film.pk, household[1])
    assert snapshot().marks.bench != mark
    found = sheet(api, film.pk, household[1])["estimate"]
    assert (before["from_seconds"], found["from_seconds"]) == (False, True)
    rate = measured_rate([(), seconds], 2, made[0])
    assert rate is not None and rate.low_bps < rate.bps < rate.high_bps
    picture = film.duration_s / 8
    assert found["size_bytes"] > rate.bps * picture
    assert found["size_high_bytes"] - found["size_low_bytes"] > (rate.high_bps - rate.low_bps) * picture
    cells = api("get", f"bench/cells?titles={film.pk}")[1]
    assert next(cell["estimate"] for cell in cells if cell["target_id"] == household[1]) == found
    scores = api("get", f"bench/plans/{place}/trade-off")[1]["scores"]
    assert next(one["size_bytes"] for one in scores if one["balance"] == "even") == found["size_bytes"]
    # a part of it takes as much in its time, less surely
    half = sheet(api, film.pk, household[1], pins={"range.keep": f"0-{film.duration_s / 2:.0f}"})["estimate"]
    assert half["from_seconds"] and abs(half["size_bytes"] / found["size_bytes"] - 0.5) < 0.02
    assert half["size_high_bytes"] / half["size_bytes"] > 1.1 * found["size_high_bytes"] / found["size_bytes"]
    # other picture, nothing was made of it
    assert not sheet(api, film.pk, household[1], pins={"picture.size": "320x180"})["estimate"]["from_seconds"]


def test_nothing_is_measured_of_what_is_not_made_anew(shelf: Shelf, household: list[int], api: Api) -> None:
    film = shelf("MARRAM_NIGHTS").titles.get(number=1)
    sheet(api, film.pk, household[1], pins={"picture.codec": "copy", "file.container": "matroska"})
    address = f"bench/plans/{film.pk}/{household[1]}/trade-off"
    assert api("post", address, {})[1] == api("get", address)[1]
    assert api("get", address)[1]["possible"] is False


def test_a_disc_is_copied_whole_checksummed_and_verified(shelf: Shelf, api: Api, settings: Any) -> None:
    disc = shelf("MARRAM_NIGHTS")
    assert api("post", "worklist/copies", {"source_id": disc.pk})[0] == 201
    run_next()
    job, output = Job.objects.get(), Output.objects.get()
    assert (job.state, output.checks[0]["results"][0]["rule"]) == ("done", "same_bytes")
    copied = Path(output.path)
    source = Path(disc.path)
    for path in (p for p in source.rglob("*") if p.is_file()):
        assert (copied / path.relative_to(source)).read_bytes() == path.read_bytes()
    listed = (copied.parent / f"{copied.name}.sha256").read_text().splitlines()
    assert len(listed) == sum(p.is_file() for p in source.rglob("*"))
    kite = shelf("camera/Kite day.mp4")
    assert api("post", "worklist/copies", {"source_id": kite.pk})[0] == 422
    scrambled = shelf("GLASS_HARBOUR")
    assert "scrambled" in api("post", "worklist/copies", {"source_id": scrambled.pk})[1]["message"]
    left = sorted(p.name for p in settings.RHEON_OUTPUT_FOLDER.iterdir())
    assert left == [copied.name, f"{copied.name}.sha256"]


def test_a_kept_range_is_pinned_told_and_made(shelf: Shelf, household: list[int], api: Api) -> None:
    extra = shelf("MARRAM_NIGHTS").titles.get(number=4)
    whole = sheet(api, extra.pk, household[1])
    assert whole["kept"] == [] and said(whole)["range.keep"] == "the whole title"
    cut = sheet(api, extra.pk, household[1], pins={"range.keep": "1-2.5,#90-#150"})
    rate = 30000 / 1001
    assert [(one["from_s"], one["until_s"]) for one in cut["kept"]] == [
        (pytest.approx(30 / rate), pytest.approx(75 / rate)),
        (pytest.approx(90 / rate), pytest.approx(150 / rate)),
    ]
    assert cut["estimate"]["size_bytes"] < whole["estimate"]["size_bytes"]
    status, refused = api("patch", f"bench/plans/{extra.pk}/{household[1]}", {"pins": {"range.keep": "9:00:00-"}})
    assert status == 422 and "nothing to keep" in refused["message"]
    api("post", "worklist/jobs", {"cells": [{"title_id": extra.pk, "target_id": household[1]}]})
    run_next()
    job = Job.objects.get()
    assert (job.state, job.summary.rpartition(" · ")[2]) == ("done", "0:01.001 to 0:02.502 and 1 more")
    assert len(see(Path(Output.objects.get().path)).times) == 45 + 60


def test_a_kept_range_of_one_title_is_not_given_to_its_siblings(shelf: Shelf, household: list[int], api: Api) -> None:
    first, second, *_ = shelf("LANTERN_STREET_S1.iso").titles.filter(role="episode").order_by("number")
    sheet(api, first.pk, household[1], pins={"range.keep": "1-4", "picture.size": "180"})
    api("post", f"bench/plans/{first.pk}/{household[1]}/transfer", {"to": "siblings"})
    assert sheet(api, second.pk, household[1])["pins"] == ["picture.size"]
