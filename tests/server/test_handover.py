"""Files on their way onto devices: what fits, what is copied, what waits, and what is taken off again."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest

from rheon.demo.sticks import StickDrawer
from rheon.server.household.models import Device
from rheon.server.outbox.actions import handover, network, outputs
from rheon.server.outbox.models import Handover, HandoverState, Output
from rheon.server.upkeep.sweep import sweep

Api = Callable[..., Any]
MB = 150_000
GONE = "999999-1"


@pytest.fixture
def drawer(settings: Any, tmp_path: Path) -> StickDrawer:
    """Sticks of 2.4 MB and more, of which none is plugged in."""
    settings.RHEON_VOLUMES = [f"rheon.demo.sticks:{tmp_path / 'sticks'}"]
    return StickDrawer(folder=tmp_path / "sticks")


@pytest.fixture
def episodes(household: list[int], settings: Any) -> list[Output]:
    """Four episodes of 0.75 MB for the first device, made out of order."""
    device = Device.objects.all()[0]
    made = []
    for number in (10, 2, 1, 3):
        path = Path(settings.RHEON_OUTPUT_FOLDER) / "Lantern Street" / f"Lantern Street 1x{number}.mp4"
        path.parent.mkdir(exist_ok=True)
        path.write_bytes(bytes([number]) * 5 * MB)
        path.with_name(f"{path.stem}.en.srt").write_text("1\n00:00:01,000 --> 00:00:02,000\nHm.\n")
        output = Output.objects.create(
            title_name=f"Episode {number}", device_names=[device.name], device_ids=[device.pk], summary="",
            path=str(path), size_bytes=5 * MB, making_s=1, checking_s=1, expected={}, checks=[],
        )  # fmt: skip
        made.append(output)
    return made


def board(api: Api, **query: Any) -> Any:
    asked = "&".join(f"{key}={value}" for key, values in query.items() for value in values)
    return api("get", f"outbox/handovers?{asked}")[1]["devices"][0]


def names(files: list[Any], state: str) -> list[str]:
    return [file["file_name"].rpartition("/")[2] for file in files if file["state"] == state]


def chosen(api: Api, drawer: StickDrawer, label: str = "TERN", folder: str = "VIDEO") -> Device:
    """The first device, whose files go onto a stick that is plugged in."""
    device = Device.objects.all()[0]
    drawer.plug_in(label)
    volume = next(one for one in api("get", "outbox/handovers")[1]["volumes"] if one["label"] == label)
    assert api("put", f"outbox/storages/{device.pk}", {"volume_id": volume["id"], "folder": folder})[0] == 204
    return device


def hand_over(api: Api, device: Device, files: list[Any]) -> None:
    wanted = {"device_id": device.pk, "outputs": [file["output_id"] for file in files]}
    assert api("post", "outbox/handovers", wanted)[0] == 202
    handover.hand_over_all()


@pytest.mark.django_db(transaction=True)
def test_a_stick_holds_three_of_four_episodes_and_the_fourth_is_explained(
    episodes: list[Output], api: Api, drawer: StickDrawer
) -> None:
    device = chosen(api, drawer)
    seen = board(api)
    assert [file["fits"] for file in seen["files"]] == [True, True, True, False]
    assert names(seen["files"], "ready") == [f"Lantern Street 1x{number}.mp4" for number in (1, 2, 3, 10)]
    assert seen["files"][3]["why"] == "it takes 750 kB, and 115 kB are left"
    instead = board(api, chosen=[device.pk], left_out=[seen["files"][0]["output_id"]])
    assert [file["fits"] for file in instead["files"]] == [False, True, True, True]
    assert instead["files"][0]["state"] == "left_out"
    in_order = [file["output_id"] for file in seen["files"]]
    assert api("put", f"outbox/storages/{device.pk}/wishes", {"outputs": [in_order[3], in_order[0]]})[0] == 204
    wished = board(api)
    assert [file["output_id"] for file in wished["files"]] == [in_order[at] for at in (3, 0, 1, 2)] and wished["wished"]
    assert [file["fits"] for file in wished["files"]] == [True, True, True, False]
    assert api("put", f"outbox/storages/{device.pk}/wishes", {"outputs": []})[0] == 204
    assert board(api)["files"] == seen["files"]
    assert api("put", f"outbox/storages/{Device.objects.all()[1].pk}/wishes", {"outputs": []})[0] == 409
    hand_over(api, device, [file for file in seen["files"] if file["fits"]])
    there = board(api)
    device.refresh_from_db()
    assert device.free_bytes == there["storage"]["free_bytes"], "the Bench knows what is left"
    assert [file["state"] for file in there["files"]] == ["there", "there", "there", "ready"]
    (row, _) = api("get", f"outbox/handovers?output={episodes[0].pk}")[1]["devices"]
    assert [file["output_id"] for file in row["files"]] == [episodes[0].pk] and (row["count"], row["there"]) == (4, 3)
    assert there["storage"]["there_bytes"] > 15 * MB and there["storage"]["here"]
    on_stick = drawer.folder / "TERN" / "VIDEO" / "Lantern Street"
    copied = sorted(on_stick.iterdir(), key=lambda path: path.stat().st_mtime_ns)
    first = [path.name for path in copied if path.suffix == ".mp4"]
    assert first == [f"Lantern Street 1x{number}.mp4" for number in (1, 2, 3)], "in the order of their names"
    assert (on_stick / "Lantern Street 1x2.en.srt").exists() and (copied[0]).read_bytes() == b"\1" * 5 * MB


@pytest.mark.django_db(transaction=True)
def test_whether_it_played_is_asked_once_for_a_device_and_again_after_trouble(
    episodes: list[Output], api: Api, drawer: StickDrawer, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(outputs, "tell_played", lambda *said: None)
    monkeypatch.setattr(outputs, "read_facts", lambda path: None)
    device = chosen(api, drawer)
    files = board(api)["files"]
    assert board(api)["asks"] is None, "nothing has come there yet"
    hand_over(api, device, files[:2])
    newest = max(files[:2], key=lambda file: file["output_id"])
    assert board(api)["asks"] == {"output_id": newest["output_id"], "title_name": newest["title_name"]}
    said = {"device_id": device.pk, "trouble": "silent"}
    assert api("post", f"outbox/{newest['output_id']}/reports", said)[0] == 200
    assert board(api)["asks"] is None, "it is not asked again of what was made before"
    network.note_fetched(network.show(device), episodes[3], "192.0.2.9")
    assert board(api)["asks"]["output_id"] == episodes[3].pk, "nor only of what was copied"
    assert api("post", f"outbox/{episodes[3].pk}/reports", {**said, "trouble": None})[0] == 200
    assert board(api)["asks"] is None


@pytest.mark.django_db(transaction=True)
def test_what_waits_goes_on_when_its_stick_is_there_again(
    episodes: list[Output], api: Api, drawer: StickDrawer, monkeypatch: pytest.MonkeyPatch
) -> None:
    device = chosen(api, drawer)
    drawer.pull_out("TERN")
    away = board(api)
    assert not away["storage"]["here"] and away["storage"]["label"] == "TERN" and away["files"][0]["fits"]
    hand_over(api, device, away["files"][:2])
    assert [file["state"] for file in board(api)["files"]] == ["waiting", "waiting", "ready", "ready"]
    drawer.plug_in("TERN")
    told = handover._Course.on_progress

    def pulled(course: Any, step: Any) -> None:
        told(course, step)
        drawer.pull_out("TERN")

    monkeypatch.setattr(handover._Course, "on_progress", pulled)
    handover.hand_over_all()
    (row,) = Handover.objects.exclude(error_message="")
    assert row.state == HandoverState.WAITING and "Plug it in again" in row.error_message
    assert not list((drawer.folder / "TERN").rglob("*.mp4"))
    monkeypatch.undo()
    left = list((drawer.folder / "TERN").rglob("*.part"))
    assert left, "what was written is gone on with"
    drawer.plug_in("TERN")
    handover.hand_over_all()
    assert [file["state"] for file in board(api)["files"]] == ["there", "there", "ready", "ready"]
    # of what is not wanted any more nothing stays, and what is to go elsewhere goes there
    left[0].write_bytes(b"half of something")
    rest = [file["output_id"] for file in away["files"][2:]]
    api("post", "outbox/handovers", {"device_id": device.pk, "outputs": rest})
    chosen(api, drawer, "KITTIWAKE")
    handover.hand_over_all()
    assert not left[0].exists() and len(list((drawer.folder / "KITTIWAKE").rglob("*.mp4"))) == 2


@pytest.mark.django_db(transaction=True)
def test_what_a_killed_worker_had_begun_is_taken_up(episodes: list[Output], api: Api, drawer: StickDrawer) -> None:
    device = chosen(api, drawer)
    api("post", "outbox/handovers", {"device_id": device.pk, "outputs": [episodes[0].pk, episodes[1].pk]})
    Handover.objects.update(state=HandoverState.COPYING, worker=GONE, attempts=1)
    Handover.objects.filter(output=episodes[1]).update(stop_requested=True)
    assert sweep() >= 2
    assert list(Handover.objects.values_list("output_id", "state")) == [(episodes[0].pk, "waiting")]
    Handover.objects.update(state=HandoverState.VERIFYING, worker=GONE, attempts=handover.MOST_ATTEMPTS)
    sweep()
    assert Handover.objects.get().state == "failed"
    hand_over(api, device, [{"output_id": episodes[0].pk}])
    assert Handover.objects.get().state == "done"


@pytest.mark.django_db(transaction=True)
def test_what_is_stopped_or_forgotten_is_nowhere(
    episodes: list[Output], api: Api, drawer: StickDrawer, monkeypatch: pytest.MonkeyPatch
) -> None:
    device = chosen(api, drawer)
    api("post", "outbox/handovers", {"device_id": device.pk, "outputs": [one.pk for one in episodes[:3]]})
    first, second, third = Handover.objects.all()
    assert api("delete", f"outbox/handovers/{second.pk}")[0] == 204
    monkeypatch.setattr(handover, "TELL_EVERY_S", 0)
    told = handover._Course.on_progress

    def stopped(course: Any, step: Any) -> None:
        if course.handover.pk == first.pk:
            api("delete", f"outbox/handovers/{first.pk}")
        else:
            Output.objects.filter(pk=third.output_id).delete()
        told(course, step)

    monkeypatch.setattr(handover._Course, "on_progress", stopped)
    handover.hand_over_all()
    assert not Handover.objects.exists()
    assert not [path for path in (drawer.folder / "TERN").rglob("*") if path.is_file()]


@pytest.mark.django_db(transaction=True)
def test_what_is_on_a_stick_is_known_and_what_was_taken_off_it_too(
    episodes: list[Output], api: Api, drawer: StickDrawer
) -> None:
    device = chosen(api, drawer, "KITTIWAKE", folder="")
    files = board(api)["files"]
    root = drawer.folder / "KITTIWAKE"
    (root / "Lantern Street").mkdir()
    (root / "Lantern Street" / "lantern street 1X2.mp4").write_bytes(b"\2" * 5 * MB)
    assert [file["state"] for file in board(api)["files"]] == ["ready", "there", "ready", "ready"]
    hand_over(api, device, files)
    assert Handover.objects.get(output_id=files[1]["output_id"]).was_there
    (root / "Lantern Street" / "Lantern Street 1x3.mp4").unlink()
    again = board(api)["files"]
    assert [file["state"] for file in again] == ["there", "there", "gone", "there"] and again[2]["fits"]
    Path(episodes[0].path).unlink()
    assert board(api)["files"][3]["state"] == "there", "it is there, whatever became of where it was made"
    status, _ = api("post", "outbox/volumes/ejected", {"volume_id": "stand-in-kittiwake"})
    assert status == 204 and not drawer.volumes()
    assert board(api)["storage"]["free_bytes"] < 10_000_000 - 15 * MB


@pytest.mark.django_db(transaction=True)
def test_what_cannot_be_is_said(episodes: list[Output], api: Api, drawer: StickDrawer) -> None:
    device = Device.objects.all()[0]
    wanted = {"device_id": device.pk, "outputs": [episodes[0].pk]}
    status, said = api("post", "outbox/handovers", wanted)
    assert status == 409 and "Nobody has said where" in said["message"]
    assert api("put", f"outbox/storages/{device.pk}", {"volume_id": "stand-in-tern"})[0] == 409
    assert api("post", "outbox/volumes/ejected", {"volume_id": "stand-in-tern"})[0] == 409
    assert api("put", "outbox/volumes/plugged", {"label": "PUFFIN"})[0] == 409
    assert api("delete", "outbox/volumes/plugged?label=TERN")[0] == 409
    chosen(api, drawer, folder="../VIDEO//..  /New: ones")
    assert board(api)["storage"]["folder"] == "Untitled/VIDEO/Untitled/New- ones"
    Path(episodes[0].path).unlink()
    status, said = api("post", "outbox/handovers", wanted)
    assert status == 404 and "not where it was made" in said["message"]
    (drawer.folder / "TERN" / "filler.bin").write_bytes(b"." * 2_000_000)
    hand_over(api, device, [{"output_id": episodes[1].pk}])
    row = Handover.objects.get()
    assert row.state == "failed" and "does not fit on TERN" in row.error_message
    assert api("delete", f"outbox/storages/{device.pk}")[0] == 204
    assert board(api)["storage"] is None


@pytest.mark.django_db(transaction=True)
def test_the_library_takes_everything_and_replaces_only_after_a_yes(
    episodes: list[Output], api: Api, drawer: StickDrawer, own_media: Path
) -> None:
    def library() -> Any:
        said = api("get", "outbox/handovers?chosen=0")[1]["devices"]
        assert not any(one["files"] for one in said if one["device_id"])
        return next(one for one in said if one["device_id"] == 0)

    (own_media / "Library" / "Lantern Street").mkdir(parents=True)
    old = own_media / "Library" / "Lantern Street" / "Lantern Street 1x2.mp4"
    old.write_bytes(b"an older version")
    assert api("put", "outbox/storages/0", {"volume_id": "/etc"})[0] == 409
    assert api("put", "outbox/storages/0", {"volume_id": str(own_media / "Library")})[0] == 204
    before = library()
    assert [file["state"] for file in before["files"]] == ["ready", "other", "ready", "ready"]
    assert before["storage"]["label"] == "Library" and not before["storage"]["can_be_ejected"]
    ready = [file["output_id"] for file in before["files"] if file["fits"]]
    assert len(ready) == 3
    api("post", "outbox/handovers", {"device_id": 0, "outputs": ready})
    handover.hand_over_all()
    assert [file["state"] for file in library()["files"]] == ["there", "other", "there", "there"]
    assert old.read_bytes() == b"an older version"
    other = before["files"][1]["output_id"]
    api("post", "outbox/handovers", {"device_id": 0, "outputs": [other], "replace": True})
    handover.hand_over_all()
    assert [file["state"] for file in library()["files"]] == ["there"] * 4
    assert old.read_bytes() == b"\2" * 5 * MB and len(list(old.parent.glob("*.mp4"))) == 4
    assert Handover.objects.filter(device=None).count() == 4
    api("post", "outbox/handovers", {"device_id": 0, "outputs": [other]})
    handover.hand_over_all()
    assert Handover.objects.filter(device=None).count() == 4, "one row for each file, however often it is asked for"


@pytest.mark.django_db(transaction=True)
def test_two_devices_on_one_stick_do_not_promise_the_same_room(
    episodes: list[Output], api: Api, drawer: StickDrawer
) -> None:
    first, second, *_ = Device.objects.all()
    Output.objects.filter(pk__in=[one.pk for one in episodes[2:]]).update(device_ids=[second.pk])
    for device in (first, second):
        drawer.plug_in("TERN")
        api("put", f"outbox/storages/{device.pk}", {"volume_id": "stand-in-tern", "folder": "VIDEO"})
    api("post", "outbox/handovers", {"device_id": first.pk, "outputs": [one.pk for one in episodes[:2]]})
    files = api("get", f"outbox/handovers?chosen={second.pk}")[1]["devices"][1]["files"]
    assert [file["fits"] for file in files] == [True, False]
    handover.hand_over_all()
    files = api("get", f"outbox/handovers?chosen={second.pk}")[1]["devices"][1]["files"]
    assert [file["fits"] for file in files] == [True, False]
