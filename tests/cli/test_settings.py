"""Settings: who is before whom, where a value comes from, and what is said of one that can't be."""

from __future__ import annotations

import json
import os
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from typer.testing import CliRunner

from rheon.cli.main import VERBS, build
from rheon.core.errors import SettingsRefused
from rheon.settings import PREFIX, Settings, lines, load_settings, variable

PORTS = st.one_of(st.none(), st.integers(1, 65535))


@pytest.fixture(autouse=True)
def nothing_said(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> Iterator[Path]:
    """No variable of this machine's; the file is the one that is given back."""
    for name in [name for name in os.environ if name.startswith(PREFIX)]:
        monkeypatch.delenv(name)
    file = tmp_path / "rheon.toml"
    file.touch()
    monkeypatch.setenv("RHEON_CONFIG", str(file))
    yield file


@given(flag=PORTS, said=PORTS, written=PORTS)
def test_flags_come_before_variables_before_the_file_before_what_is_usual(
    flag: int | None, said: int | None, written: int | None
) -> None:
    file = Path(os.environ["RHEON_CONFIG"])
    file.write_text(f"# mine\n\nport = {written}\n" if written else "")
    os.environ.pop("RHEON_PORT", None)
    if said:
        os.environ["RHEON_PORT"] = str(said)
    try:
        found = load_settings({"port": flag})
    finally:
        os.environ.pop("RHEON_PORT", None)
    origin = "the flag --port" if flag else "the variable RHEON_PORT" if said else f"{file}, line 3"
    assert found.settings.port == (flag or said or written or 8420)
    assert found.origins["port"] == (origin if flag or said or written else "as is usual")


@pytest.mark.parametrize(
    ("text", "line", "word"),
    [
        ("port = 8420\nprot = 1\n", 2, "“prot”"),
        ("# one\nport = 70000", 2, "65535"),
        ("[port]\nx = 1", 1, "integer"),
        ('media = ["/a"]\n\nlisten = "somewhere"', 3, "address"),
        ('hosts = ["http://name"]', 1, "without a port"),
        ('prefix = "rheon"', 1, "slash"),
        ("media = []", 1, "at least 1"),
        ('cache_mb = "much"', 1, "integer"),
    ],
)
def test_what_cannot_be_is_refused_with_its_file_and_line(nothing_said: Path, text: str, line: int, word: str) -> None:
    nothing_said.write_text(text)
    with pytest.raises(SettingsRefused) as refused:
        load_settings()
    assert f"{nothing_said}, line {line}" in refused.value.message
    assert word in refused.value.message


def test_a_file_that_is_no_toml_or_is_not_there_is_told(nothing_said: Path) -> None:
    nothing_said.write_text("port == 1")
    with pytest.raises(SettingsRefused, match="line 1"):
        load_settings()
    nothing_said.unlink()
    with pytest.raises(SettingsRefused, match="RHEON_CONFIG"):
        load_settings()


def test_lists_and_folders_mean_the_same_in_the_file_and_in_variables(
    nothing_said: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    nothing_said.write_text('media = ["films", "/srv/films"]\nhosts = ["a.example", "b.example"]\n')
    written = load_settings().settings
    assert written.media == (nothing_said.parent / "films", Path("/srv/films"))
    monkeypatch.setenv("RHEON_MEDIA", f"{nothing_said.parent}/films:/srv/films")
    monkeypatch.setenv("RHEON_HOSTS", "a.example, b.example")
    assert load_settings().settings == written
    assert not written.is_local


def test_what_the_parts_are_started_with_gives_the_same_settings_and_origins(monkeypatch: pytest.MonkeyPatch) -> None:
    first = load_settings({"port": "9000", "media": "/srv:/media", "https": False})
    for name, value in first.environment().items():
        monkeypatch.setenv(name, value)
    second = load_settings()
    assert (second.settings, second.origins) == (first.settings, first.origins)
    for name, value in first.settings.environment().items():
        monkeypatch.setenv(name, value)
    assert load_settings().settings == first.settings


def test_the_verb_shows_every_setting_and_names_variables_that_are_none(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("RHEON_MEDAI", "/films")
    arguments = ["settings", "--json", "--port", "9001"]
    done = CliRunner().invoke(build(arguments), arguments)
    shown = {line["name"]: line for line in json.loads(done.stdout)}
    assert set(shown) == set(Settings.model_fields)
    assert (shown["port"]["value"], shown["port"]["origin"]) == ("9001", "the flag --port")
    assert "RHEON_MEDAI" in done.stderr
    assert all(line.variable == variable(line.name) for line in lines(load_settings()))
    arguments[-1] = "none"
    refused = CliRunner().invoke(build(arguments), arguments)
    assert refused.exit_code == 2
    assert "the flag --port" in refused.stderr


@pytest.mark.parametrize(
    ("written", "said", "flags", "value", "told"),
    [
        ("door_port = 9100", None, [], "9100", "line 1"),
        ("pairing_port = 9100\ndoor_port = 9200", None, [], "9100", "line 2"),
        ("door_port = 9100", "9200", [], "9200", "The variable RHEON_DOOR_PORT"),
        ("", "9200", ["--door-port", "9300"], "9300", "The flag --door-port"),
        ("pairing_port = 9100", None, [], "9100", ""),
    ],
)
def test_settings_under_an_older_name_are_read_and_told(
    nothing_said: Path,
    monkeypatch: pytest.MonkeyPatch,
    written: str,
    said: str | None,
    flags: list[str],
    value: str,
    told: str,
) -> None:
    nothing_said.write_text(written)
    if said:
        monkeypatch.setenv("RHEON_DOOR_PORT", said)
    arguments = ["settings", "--json", *flags]
    done = CliRunner().invoke(build(arguments), arguments)
    shown = {line["name"]: line["value"] for line in json.loads(done.stdout)}
    assert shown["pairing_port"] == value
    assert (told in done.stderr) and ("is called pairing_port now" in done.stderr) == bool(told)
    assert "no setting" not in done.stderr


def test_the_list_of_verbs_loads_none_of_them() -> None:
    code = "import sys; from rheon.cli.main import build\ntry: build(['--help'])(['--help'])\nexcept SystemExit: pass\n"
    code += "print(sorted({'django', 'pydantic', 'numpy', 'rheon.core.sources', 'rich'} & set(sys.modules)))"
    said = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True).stdout
    assert said.splitlines()[-1] == "[]"
    assert all(name in said for name in VERBS)


def test_a_page_for_others_is_not_served_without_a_passphrase(tmp_path: Path) -> None:
    for more in (["--listen", "0.0.0.0"], ["--hosts", "rheon.example"], ["--proxies", "10.0.0.1"]):
        arguments = ["serve", "--state", str(tmp_path / "state"), *more]
        done = CliRunner().invoke(build(arguments), arguments)
        assert done.exit_code == 2
        assert "rheon passphrase" in done.stderr
