"""``rheon copy`` and ``rheon volumes``: finished files onto sticks and into folders."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from typer.testing import CliRunner

from rheon.cli.main import build
from rheon.demo.sticks import StickDrawer


@pytest.fixture
def drawer(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> StickDrawer:
    monkeypatch.setenv("RHEON_VOLUMES", f"rheon.demo.sticks:{tmp_path / 'sticks'}")
    return StickDrawer(folder=tmp_path / "sticks")


@pytest.fixture
def files(tmp_path: Path) -> list[Path]:
    made = []
    for number in (10, 2, 1):
        path = tmp_path / f"Lantern Street 1x{number}.mp4"
        path.write_bytes(bytes([number]) * 200_000)
        made.append(path)
    (tmp_path / "Lantern Street 1x2.en.srt").write_text("1\n00:00:01,000 --> 00:00:02,000\nHm.\n")
    return made


def run(*argv: str | Path) -> tuple[int, str]:
    words = [str(one) for one in argv]
    done = CliRunner().invoke(build(words), words)
    return done.exit_code, done.output


def test_files_are_copied_in_the_order_of_their_names_and_known_again(drawer: StickDrawer, files: list[Path]) -> None:
    assert run("volumes") == (0, "Nothing is plugged in or mounted.\n")
    drawer.plug_in("TERN")
    assert [one["label"] for one in json.loads(run("volumes", "--json")[1])] == ["TERN"]
    for was_there in (False, True):
        status, said = run("copy", *files, "--to", "tern", "--folder", "VIDEO", "--json")
        lines = [json.loads(line) for line in said.splitlines()]
        assert status == 0 and [line["was_there"] for line in lines] == [was_there] * 3
        assert [Path(line["path"]).name for line in lines] == [
            f"Lantern Street 1x{number}.mp4" for number in (1, 2, 10)
        ]
    folder = drawer.folder / "TERN" / "VIDEO"
    assert {path.name for path in folder.iterdir()} == {*(path.name for path in files), "Lantern Street 1x2.en.srt"}
    assert all((folder / path.name).read_bytes() == path.read_bytes() for path in files)


def test_a_folder_will_do_and_what_cannot_be_is_said(drawer: StickDrawer, files: list[Path], tmp_path: Path) -> None:
    (tmp_path / "library").mkdir()
    assert run("copy", files[0], "--to", tmp_path / "library")[0] == 0
    assert (tmp_path / "library" / files[0].name).read_bytes() == files[0].read_bytes()
    drawer.plug_in("TERN")
    inside = drawer.folder / "TERN" / "MOVIES"
    inside.mkdir()
    assert run("copy", files[0], "--to", inside)[0] == 0 and (inside / files[0].name).exists()
    large = tmp_path / "large.mp4"
    large.write_bytes(bytes(3_000_000))
    for argv, part in (
        ((large, "--to", "TERN"), "does not fit on TERN"),
        ((files[0], "--to", "PUFFIN"), "no volume and no folder"),
        ((tmp_path / "none.mp4", "--to", "TERN"), "not where it was made"),
    ):
        status, said = run("copy", *argv, "--json")
        assert status in (3, 4) and part in json.loads(said)["error"]["message"]
