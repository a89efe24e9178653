"""The settings of an installation: flags, before the environment, before ``rheon.toml``, before what is usual.

Every setting is declared once, here. The table in ``README.md``, ``rheon settings`` and the flags of ``rheon serve``
are made from these fields.
"""

from __future__ import annotations

import ipaddress
import os
import re
import shlex
import tomllib
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Annotated, Any
from urllib.parse import urlsplit

import platformdirs
from pydantic import AfterValidator, BaseModel, BeforeValidator, Field, ValidationError, field_validator
from pydantic_settings import (
    BaseSettings,
    EnvSettingsSource,
    NoDecode,
    PydanticBaseSettingsSource,
    SettingsConfigDict,
    TomlConfigSettingsSource,
)

from rheon.core.errors import SettingsRefused

PREFIX = "RHEON_"
FILE_NAME = "rheon.toml"
FILE_VARIABLE = "RHEON_CONFIG"
USUAL = "as is usual"
FLAG = "the flag --"
FLAGS_VARIABLE = "RHEON_FLAGS"
OTHER_VARIABLES = frozenset({FILE_VARIABLE, FLAGS_VARIABLE, "RHEON_DEBUG", "RHEON_DEMO"})
"""Variables that are no settings: where the file is, which variables a flag set, Django's faults, the demo's home."""
CALLED_NOW = {"door_host": "pairing_host", "door_port": "pairing_port"}
"""Settings that had another name once: it is still read, and told."""


def _parts(separator: str) -> BeforeValidator:
    """A list as one text, as variables and flags give it, or as a list, as the file does."""

    def split(value: object) -> object:
        return [part.strip() for part in value.split(separator) if part.strip()] if isinstance(value, str) else value

    return BeforeValidator(split)


def _absolute(path: Path) -> Path:
    return Path(os.path.realpath(path.expanduser()))


Folder = Annotated[Path, AfterValidator(_absolute)]


def usual_media() -> tuple[Path, ...]:
    """Where people's films are: their own folder and what is mounted."""
    mounted = (Path("/media"), Path("/mnt"), Path("/run/media"), Path("/srv"))
    return tuple(path for path in (Path.home(), *mounted) if path.is_dir())


class Settings(BaseSettings):
    """What differs between installations. Lists are separated as each field says; in the file they are lists."""

    model_config = SettingsConfigDict(env_prefix=PREFIX, extra="forbid", frozen=True, env_ignore_empty=True)

    state: Folder = Field(
        default_factory=lambda: platformdirs.user_data_path("rheon"),
        description="folder of the database, the secret key, the cache and the logs",
    )
    media: Annotated[tuple[Folder, ...], NoDecode, _parts(os.pathsep)] = Field(
        default_factory=usual_media,
        min_length=1,
        description="folders that Rheon may read, separated by colons",
    )
    output: Folder = Field(
        default_factory=lambda: platformdirs.user_videos_path() / "Rheon",
        description="folder that files go to, until another is chosen in the page",
    )
    drives: Annotated[tuple[str, ...], NoDecode, _parts(";")] = Field(
        default=("/dev/sr0",), description="disc drives, separated by semicolons"
    )
    volumes: Annotated[tuple[str, ...], NoDecode, _parts(";")] = Field(
        default=("mounted",),
        description="where sticks, cards and network folders to copy to are found; mounted: what is mounted here",
    )
    ends: Annotated[tuple[str, ...], NoDecode, _parts(";")] = Field(
        default=(),
        description="what can be done when all is made, such as Sleep=systemctl suspend; separated by semicolons",
    )
    tell: str = Field(
        default="",
        description="command that hears what was made, as JSON on its standard input, whenever all is made",
    )
    hardware: str = Field(
        default="/dev",
        description="folder of the machine's devices, in which encoders in hardware are looked for; none: never",
    )
    look_up: str = Field(
        default="",
        description="address of a service that knows works by their names (docs/look-up.md); nothing is sent to it"
        " without a yes",
    )
    listen: str = Field(
        default="127.0.0.1", description="address that the page is served at; beyond this machine it needs a passphrase"
    )
    port: int = Field(default=8420, ge=1, le=65535, description="port of the page")
    hosts: Annotated[tuple[str, ...], NoDecode, _parts(",")] = Field(
        default=(), description="further names that the page is called by, separated by commas"
    )
    proxies: Annotated[tuple[str, ...], NoDecode, _parts(",")] = Field(
        default=(), description="addresses of reverse proxies that are believed, separated by commas"
    )
    prefix: str = Field(default="", description="path that the page lies under behind a proxy, such as /rheon")
    https: bool = Field(default=False, description="whether a proxy in front speaks TLS with the browsers")
    pairing_host: str = Field(
        default="0.0.0.0", description="address of the pages for devices of the network, only while one is open"
    )
    pairing_port: int = Field(default=8421, ge=1, le=65535, description="port of the pages for devices of the network")
    media_server_port: int = Field(
        default=8422,
        ge=1,
        le=65535,
        description="port at which TVs of the network learn what is shown to them, only while something is",
    )
    engine_memory_mb: int = Field(
        default=12_288,
        ge=1024,
        le=1_000_000,
        description="how much memory (address space, MiB) each run of the engine may take, so each file that is made",
    )
    cache_mb: int = Field(default=500, ge=20, le=1_000_000, description="how much the cache of pictures may hold")
    log_mb: int = Field(default=20, ge=1, le=10_000, description="how much the logs may hold")

    @field_validator("listen", "pairing_host")
    @classmethod
    def _is_address(cls, value: str) -> str:
        if value != "localhost":
            ipaddress.ip_address(value)
        return value

    @field_validator("ends")
    @classmethod
    def _are_commands(cls, value: tuple[str, ...]) -> tuple[str, ...]:
        for each in value:
            name, _, command = each.partition("=")
            if not name.strip() or not shlex.split(command):
                raise ValueError("an end is a name and a command, such as Sleep=systemctl suspend")
        return value

    @field_validator("tell")
    @classmethod
    def _is_command(cls, value: str) -> str:
        shlex.split(value)
        return value

    @field_validator("look_up")
    @classmethod
    def _is_service(cls, value: str) -> str:
        split = urlsplit(value)
        if value and (split.scheme not in ("http", "https") or not split.hostname or split.query or split.username):
            raise ValueError("it is an address such as https://works.example/api")
        _ = split.port
        return value.rstrip("/")

    @field_validator("proxies")
    @classmethod
    def _are_addresses(cls, value: tuple[str, ...]) -> tuple[str, ...]:
        for each in value:
            ipaddress.ip_address(each)
        return value

    @field_validator("hosts")
    @classmethod
    def _are_names(cls, value: tuple[str, ...]) -> tuple[str, ...]:
        for each in value:
            if not re.fullmatch(r"\[[0-9a-fA-F:]+\]|\.?[A-Za-z0-9-]+(\.[A-Za-z0-9-]+)*", each):
                raise ValueError("a host is a name or an address, without a port")
        return value

    @field_validator("prefix")
    @classmethod
    def _is_path(cls, value: str) -> str:
        if not re.fullmatch(r"(/[A-Za-z0-9._~-]+)*/?", value):
            raise ValueError("it begins with a slash and holds letters, digits, dots and hyphens")
        return value.rstrip("/")

    @classmethod
    def settings_customise_sources(
        cls,
        settings_cls: type[BaseSettings],
        init_settings: PydanticBaseSettingsSource,
        env_settings: PydanticBaseSettingsSource,
        dotenv_settings: PydanticBaseSettingsSource,
        file_secret_settings: PydanticBaseSettingsSource,
    ) -> tuple[PydanticBaseSettingsSource, ...]:
        """``load_settings`` asks the sources itself, since it remembers which of them said what."""
        return (init_settings,)

    @property
    def is_local(self) -> bool:
        """Whether the page is for this machine alone."""
        alone = self.listen == "localhost" or ipaddress.ip_address(self.listen).is_loopback
        return alone and not self.hosts and not self.proxies

    @property
    def hardware_place(self) -> Path | None:
        """Where encoders in hardware are looked for; ``None`` where they are not to be."""
        return None if self.hardware == "none" else Path(self.hardware)

    def environment(self) -> dict[str, str]:
        """The settings as the variables that the parts of an installation are started with."""
        return {variable(name): _as_text(name, value) for name, value in self}


SEPARATORS = {"media": os.pathsep, "drives": ";", "volumes": ";", "ends": ";", "hosts": ",", "proxies": ","}


def _as_text(name: str, value: object) -> str:
    if isinstance(value, tuple):
        return SEPARATORS[name].join(map(str, value))
    return ("yes" if value else "no") if isinstance(value, bool) else str(value)


@dataclass(frozen=True, slots=True, kw_only=True)
class Loaded:
    """``origins`` says for each setting where its value comes from, in words."""

    settings: Settings
    origins: Mapping[str, str]
    unknown: tuple[str, ...]
    """Variables that look like settings and are none."""
    flagged: tuple[str, ...] = ()
    """Settings that a flag gave."""
    renamed: tuple[tuple[str, str], ...] = ()
    """What was said under an older name: where, and the name of today."""

    def environment(self) -> dict[str, str]:
        """What the parts of an installation are started with: the flags, as variables that say that they were flags."""
        everything = self.settings.environment()
        return {variable(name): everything[variable(name)] for name in self.flagged} | {
            FLAGS_VARIABLE: ",".join(self.flagged)
        }


def settings_file() -> Path:
    """Where ``rheon.toml`` is looked for."""
    named = os.environ.get(FILE_VARIABLE)
    return Path(named).expanduser() if named else platformdirs.user_config_path("rheon") / FILE_NAME


def load_settings(flags: Mapping[str, object] | None = None) -> Loaded:
    """The settings of this process. Raises ``SettingsRefused`` with the place of what is wrong."""
    path = settings_file()
    text, written = _read(path)
    values: dict[str, object] = {}
    origins = dict.fromkeys(Settings.model_fields, USUAL)
    renamed: dict[str, str] = {}

    def take(said: Mapping[str, object], origin: Callable[[str], str]) -> None:
        # an older name first, so that the one of today wins where both are said
        for name in sorted(said, key=lambda name: name not in CALLED_NOW):
            now = CALLED_NOW.get(name, name)
            values[now], origins[now] = said[name], origin(name)
            if now != name:
                renamed[origin(name)] = now

    passed_on = os.environ.get(FLAGS_VARIABLE, "").split(",")
    take(
        {name: _beside(path, name, value) for name, value in written.items()},
        lambda name: f"{path}, line {_line_of(text, name)}",
    )
    take(_said_by_variables(), lambda name: _flag(name) if name in passed_on else f"the variable {variable(name)}")
    take({name: value for name, value in (flags or {}).items() if value is not None}, _flag)
    if unknown := next((name for name in written if CALLED_NOW.get(name, name) not in Settings.model_fields), None):
        known = ", ".join(Settings.model_fields)
        raise SettingsRefused(
            "{origin}: there is no setting “{unknown}”.",
            origin=origins[unknown],
            unknown=unknown,
            advice="There are: {known}.",
            known=known,
        )
    try:
        settings = Settings(**values)  # type: ignore[arg-type]  # checked by the model
    except ValidationError as error:
        raise _refusal(error, origins) from error
    known_variables = {variable(name) for name in (*Settings.model_fields, *CALLED_NOW)} | OTHER_VARIABLES
    unknown_ones = tuple(sorted(v for v in os.environ if v.startswith(PREFIX) and v not in known_variables))
    flagged = tuple(name for name, origin in origins.items() if origin.startswith(FLAG))
    return Loaded(
        settings=settings, origins=origins, unknown=unknown_ones, flagged=flagged, renamed=tuple(renamed.items())
    )


def _said_by_variables() -> dict[str, object]:
    older = {name: os.environ.get(variable(name)) for name in CALLED_NOW}
    return {name: value for name, value in older.items() if value} | EnvSettingsSource(Settings)()


def _flag(name: str) -> str:
    return f"{FLAG}{name.replace('_', '-')}"


def variable(name: str) -> str:
    """The variable of a setting."""
    return f"{PREFIX}{name.upper()}"


def _read(path: Path) -> tuple[str, dict[str, Any]]:
    try:
        text = path.read_text(encoding="utf-8")
        return text, TomlConfigSettingsSource(Settings, toml_file=path)()
    except FileNotFoundError as error:
        if FILE_VARIABLE in os.environ:
            raise SettingsRefused(
                "There is no file {path}.", path=path, advice="Correct {variable}.", variable=FILE_VARIABLE
            ) from error
        return "", {}
    except (OSError, UnicodeDecodeError) as error:
        raise SettingsRefused("{path} can't be read: {error}.", path=path, error=error) from error
    except tomllib.TOMLDecodeError as error:
        raise SettingsRefused("{path} is no valid TOML: {error}.", path=path, error=error) from error


def _beside(path: Path, name: str, value: object) -> object:
    """Relative folders in the file are meant from where it lies."""
    is_folder = name in ("state", "output", "media")
    if is_folder and isinstance(value, str):
        return str(path.parent / Path(value).expanduser())
    if is_folder and isinstance(value, list):
        return [_beside(path, name, each) for each in value]
    return value


def _line_of(text: str, name: str) -> int:
    pattern = re.compile(rf"""^\s*["']?{re.escape(name)}["']?\s*=|^\s*\[\[?\s*{re.escape(name)}\b""")
    return next((number for number, line in enumerate(text.splitlines(), 1) if pattern.search(line)), 1)


def _refusal(error: ValidationError, origins: Mapping[str, str]) -> SettingsRefused:
    first = error.errors(include_url=False)[0]
    name = str(first["loc"][0])
    reason = first["msg"].removeprefix("Value error, ")
    given = first["input"]
    return SettingsRefused(
        "{origin}: {setting} can't be {given}: {reason}.",
        origin=origins[name],
        setting=name.replace("_", " "),
        given=repr(given),
        reason=f"{reason[:1].lower()}{reason[1:]}",
        advice="Wanted is: {description}.",
        description=Settings.model_fields[name].description,
    )


USUALLY = {
    "state": "`~/.local/share/rheon`",
    "media": "the home folder, `/media`, `/mnt`, `/run/media`, `/srv`",
    "output": "`Rheon` in the folder for videos",
}


def usual_text(name: str) -> str:
    """What a setting is where nobody says anything, for people to read."""
    if name in USUALLY:
        return USUALLY[name]
    text = _as_text(name, Settings.model_fields[name].default)
    return f"`{text}`" if text else "none"


class SettingLine(BaseModel):
    """One setting as it is shown: its value as text and where that comes from."""

    name: str
    variable: str
    value: str
    origin: str
    about: str


def lines(loaded: Loaded) -> Iterable[SettingLine]:
    for name, value in loaded.settings:
        about = Settings.model_fields[name].description or ""
        text = _as_text(name, value)
        yield SettingLine(name=name, variable=variable(name), value=text, origin=loaded.origins[name], about=about)
