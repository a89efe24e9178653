"""A look at everything an installation needs: each line is good, weak or bad, and says what to do."""

from __future__ import annotations

import json
import os
import sqlite3
import stat
import urllib.request
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from enum import StrEnum
from pathlib import Path

from rheon.core.catalogue import later, say
from rheon.core.encoding import try_hardware
from rheon.core.engine import FILTERS, engine_encoders, engine_filters, require, vmaf_engine
from rheon.core.errors import RheonError
from rheon.core.formats import HARDWARE, codec_name, encoder_names
from rheon.core.handover import open_volumes
from rheon.core.system import place_of
from rheon.core.wording import sentence, size_text
from rheon.settings import Loaded, Settings

from .database import applied_migrations, check_version, chosen_output, database_of, has_passphrase, verify
from .ports import check_port, own_host

OFTEN_USED = ("libx264", "libx265", "aac", "libmp3lame", "ac3", "libopus", "flac")
FONTS = (Path("/usr/share/fonts"), Path("/usr/local/share/fonts"), Path.home() / ".fonts")
FONT_SUFFIXES = (".ttf", ".otf", ".ttc", ".pfb")
LITTLE_BYTES, TOO_LITTLE_BYTES = 5_000_000_000, 500_000_000
OPTICAL = later("Add yourself to the group of the drive (often cdrom), then sign in anew.")


class State(StrEnum):
    GOOD = "good"
    WEAK = "weak"
    BAD = "bad"


@dataclass(frozen=True, slots=True, kw_only=True)
class Finding:
    """``remedy`` is empty where nothing has to be done."""

    state: State
    about: str
    text: str
    remedy: str = ""


def look(loaded: Loaded) -> Iterator[Finding]:
    """Everything in order; a look that fails is itself a finding."""
    settings = loaded.settings
    looks: tuple[tuple[str, Callable[[], Iterator[Finding]]], ...] = (
        ("settings", lambda: _settings(loaded)),
        ("engine", _engine),
        ("hardware", lambda: _hardware(settings)),
        ("fonts", _fonts),
        ("state", lambda: _state(settings)),
        ("database", lambda: _database(settings)),
        ("films", lambda: _films(settings)),
        ("output", lambda: _output(settings)),
        ("drives", lambda: _drives(settings)),
        ("volumes", lambda: _volumes(settings)),
        ("ports", lambda: _ports(settings)),
        ("passphrase", lambda: _passphrase(settings)),
    )
    for about, one in looks:
        try:
            yield from one()
        except (OSError, RheonError, sqlite3.Error) as error:
            remedy = error.next_step if isinstance(error, RheonError) else ""
            text = error.what if isinstance(error, RheonError) else str(error)
            yield Finding(state=State.BAD, about=about, text=text, remedy=remedy)


def _settings(loaded: Loaded) -> Iterator[Finding]:
    said = sum(origin != "as is usual" for origin in loaded.origins.values())
    yield Finding(state=State.GOOD, about="settings", text=say("{count} set, the others as is usual", count=said))
    for name in loaded.unknown:
        yield Finding(
            state=State.WEAK,
            about="settings",
            text=say("there is no setting {name}", name=name),
            remedy=say("Correct or remove it."),
        )


def _engine() -> Iterator[Finding]:
    for program in ("ffmpeg", "ffprobe"):
        yield Finding(state=State.GOOD, about="engine", text=require(program).split(" Copyright")[0])
    missing = sorted(encoder_names() - engine_encoders())
    often = [name for name in missing if name in OFTEN_USED]
    if missing:
        state = State.BAD if often else State.WEAK
        remedy = say("Install an ffmpeg that has them; plans that need one of them fail until then.")
        yield Finding(
            state=state, about="encoders", text=say("missing: {names}", names=", ".join(missing)), remedy=remedy
        )
    else:
        yield Finding(state=State.GOOD, about="encoders", text=say("all {count} are there", count=len(encoder_names())))
    if lacking := sorted(set(FILTERS) - engine_filters()):
        remedy = say("Install an ffmpeg that has them.")
        yield Finding(
            state=State.BAD, about="filters", text=say("missing: {names}", names=", ".join(lacking)), remedy=remedy
        )
    else:
        yield Finding(state=State.GOOD, about="filters", text=say("all {count} are there", count=len(FILTERS)))
    if vmaf_engine() is not None:
        yield Finding(state=State.GOOD, about="fidelity", text=say("measured as people judge it (VMAF)"))
    else:
        by_structure = say("measured by how like structures are (SSIM); rheon[vmaf] measures as people judge")
        yield Finding(state=State.GOOD, about="fidelity", text=by_structure)


def _hardware(settings: Settings) -> Iterator[Finding]:
    """What is not there is no fault: everything is made without it."""
    place = settings.hardware_place
    if place is None:
        yield Finding(state=State.GOOD, about="hardware", text=say("encoders in hardware are not looked for"))
        return
    whys: dict[str, str] = {}
    for trial in try_hardware(place):
        name = f"{HARDWARE[trial.family].label} {codec_name(trial.codec)}"
        if trial.works:
            yield Finding(state=State.GOOD, about="hardware", text=say("{name} works", name=name))
        elif trial.why:
            whys.setdefault(HARDWARE[trial.family].label, sentence(trial.why))
    for label, why in whys.items():
        yield Finding(state=State.GOOD, about="hardware", text=say("no {name}: {why}", name=label, why=why))


def _fonts() -> Iterator[Finding]:
    for folder in FONTS:
        for _, _, names in os.walk(folder):
            if any(name.lower().endswith(FONT_SUFFIXES) for name in names):
                yield Finding(state=State.GOOD, about="fonts", text=say("there are some in {folder}", folder=folder))
                return
    remedy = say("Install one, such as Debian's fonts-dejavu-core.")
    yield Finding(state=State.WEAK, about="fonts", text=say("none, so text subtitles can't be drawn"), remedy=remedy)


def _state(settings: Settings) -> Iterator[Finding]:
    yield from _room("state", settings.state, LITTLE_BYTES // 10, TOO_LITTLE_BYTES // 10)
    for path in (settings.state, database_of(settings.state), settings.state / "secret-key"):
        if path.exists() and stat.S_IMODE(path.stat().st_mode) & 0o077:
            yield Finding(
                state=State.BAD,
                about="rights",
                text=say("others can look into {path}", path=path),
                remedy=f"chmod go= '{path}'",
            )
    if settings.state.exists() and settings.state.stat().st_uid != os.geteuid():
        remedy = say("Run Rheon as the one who owns it.")
        yield Finding(
            state=State.BAD,
            about="rights",
            text=say("{state} belongs to somebody else", state=settings.state),
            remedy=remedy,
        )


def _database(settings: Settings) -> Iterator[Finding]:
    place = database_of(settings.state)
    if not applied_migrations(place):
        yield Finding(state=State.GOOD, about="database", text=say("none yet; the first start makes it"))
        return
    verify(place)
    text = say("sound, {megabytes:.1f} MB", megabytes=place.stat().st_size / 1e6)
    if check_version(place):
        text = say("{state}; the next start brings it forward and keeps a copy", state=text)
    yield Finding(state=State.GOOD, about="database", text=text)


def _films(settings: Settings) -> Iterator[Finding]:
    for folder in settings.media:
        if not folder.is_dir():
            yield Finding(
                state=State.WEAK,
                about="films",
                text=say("{folder} is not there", folder=folder),
                remedy=say("Mount it, or correct “media”."),
            )
        elif not os.access(folder, os.R_OK | os.X_OK):
            remedy = say("Change its rights, or correct “media”.")
            yield Finding(
                state=State.WEAK, about="films", text=say("{folder} may not be read", folder=folder), remedy=remedy
            )
        else:
            yield Finding(state=State.GOOD, about="films", text=say("{folder} can be read", folder=folder))


def _output(settings: Settings) -> Iterator[Finding]:
    folder = chosen_output(settings.state) or settings.output
    yield from _room("output", folder, LITTLE_BYTES, TOO_LITTLE_BYTES)
    place = place_of(folder)
    if place and place.largest_file_bytes:
        text = say(
            "{folder} is {file_system}, which takes no file over 4 GB", folder=folder, file_system=place.file_system
        )
        yield Finding(state=State.WEAK, about="output", text=text, remedy=say("Choose another one for long films."))


def _room(about: str, folder: Path, little: int, too_little: int) -> Iterator[Finding]:
    place = place_of(folder)
    if place is None or not place.writable:
        remedy = say("Change its rights, or name another folder.")
        yield Finding(
            state=State.BAD, about=about, text=say("{folder} can't be written to", folder=folder), remedy=remedy
        )
        return
    state = State.BAD if place.free_bytes < too_little else State.WEAK if place.free_bytes < little else State.GOOD
    where = str(folder) if place.exists else say("{folder} (made when it is needed)", folder=folder)
    system = place.file_system or say("unknown file system")
    free = place.free_bytes / 1e9
    text = say("{folder}: {gigabytes:.1f} GB free, {file_system}", folder=where, gigabytes=free, file_system=system)
    yield Finding(
        state=state, about=about, text=text, remedy="" if state is State.GOOD else say("Free some space there.")
    )


def _drives(settings: Settings) -> Iterator[Finding]:
    for name in settings.drives:
        if ":" in name:
            yield Finding(
                state=State.GOOD, about="drives", text=say("{name} stands in for one", name=name.partition(":")[0])
            )
        elif not Path(name).exists():
            yield Finding(state=State.GOOD, about="drives", text=say("no drive at {name}", name=name))
        elif not os.access(name, os.R_OK):
            yield Finding(
                state=State.WEAK, about="drives", text=say("{name} may not be read", name=name), remedy=OPTICAL
            )
        else:
            yield Finding(state=State.GOOD, about="drives", text=say("{name} can be read", name=name))


def _volumes(settings: Settings) -> Iterator[Finding]:
    found = [volume for where in settings.volumes for volume in open_volumes(where).volumes()]
    for volume in found:
        facts = {"label": volume.label, "path": volume.path}
        if not volume.writable:
            text = say("{label} ({path}) can't be written to", **facts)
            remedy = say("Mount it for the user that Rheon runs as, if files are to go there.")
            yield Finding(state=State.WEAK, about="volumes", text=text, remedy=remedy)
            continue
        free = say("free space unknown") if volume.free_bytes is None else size_text(volume.free_bytes)
        yield Finding(state=State.GOOD, about="volumes", text=say("{label} ({path}): {free}", **facts, free=free))
    if not found:
        yield Finding(state=State.GOOD, about="volumes", text=say("no stick, card or network folder is there"))


def _ports(settings: Settings) -> Iterator[Finding]:
    host = own_host(settings)
    host = f"[{host}]" if ":" in host else host
    address = f"http://{host}:{settings.port}{settings.prefix}/api/health"
    try:
        with urllib.request.urlopen(address, timeout=3) as answer:
            if json.load(answer).get("healthy"):
                yield Finding(
                    state=State.GOOD, about="ports", text=say("Rheon answers at port {port}", port=settings.port)
                )
                return
    except (OSError, ValueError):
        pass
    check_port(settings)
    yield Finding(state=State.GOOD, about="ports", text=say("port {port} is free", port=settings.port))


def _passphrase(settings: Settings) -> Iterator[Finding]:
    if has_passphrase(settings.state):
        yield Finding(state=State.GOOD, about="passphrase", text=say("the page asks for one"))
    elif settings.is_local:
        yield Finding(
            state=State.GOOD, about="passphrase", text=say("none is needed: only this machine reaches the page")
        )
    else:
        text = say("none, and others could open the page")
        yield Finding(state=State.BAD, about="passphrase", text=text, remedy=say("Set one with 'rheon passphrase'."))
