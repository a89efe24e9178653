"""What a test in a browser can begin with: built once through the API, kept, and put back before each test."""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping
from pathlib import Path

from tests.instruments.looked import kept_samples, kept_survey

from rheon.core.analysis import fingerprint
from rheon.core.media.documents import dump
from rheon.core.sources import read_source
from rheon.demo.models import model_file
from rheon.server.shelf.actions.samples import samples_mark
from rheon.server.shelf.actions.surveys import WORTH_A_LOOK

from .running import MEDIA, Rheon


def stage_of(running: Rheon, stages: Path, name: str) -> Path:
    """The stage, made where nobody had."""
    stage = stages / name
    if not (stage / "rheon.sqlite3").exists():
        if name != EMPTY:
            before, build = STAGES[name]
            running.begin(stage_of(running, stages, before))
            build(running)
        # kept while a worker does something, that would be done for ever by a worker that knows nothing of it
        running.rest()
        running.keep(stage)
    return stage


def put(rheon: Rheon, *names: str) -> None:
    """Have sources of the demo read and looked at; what other tests found when they looked is known already."""
    insert = "insert or ignore into shelf_finding (mark, document, added) values (?, ?, current_timestamp)"
    for name in names:
        for title in read_source(MEDIA / name).titles:
            if title.role in WORTH_A_LOOK and not title.fault:
                rheon.ask(insert, fingerprint(title), json.dumps(dump(kept_survey(title))))
                # of the others hardly any is ever picked
                if name in FILM_AND_SERIES:
                    rheon.ask(insert, samples_mark(title), json.dumps(dump(kept_samples(title))))
    rheon.manage("add_sources", *(str(MEDIA / name) for name in names))
    rheon.rest()


def live(rheon: Rheon, names: Mapping[str, str]) -> None:
    """Give a household devices: models of the demo by the names that they have at home."""
    devices = [{"profile": str(model_file(model)), "name": name} for name, model in names.items()]
    file = rheon.state / "household.json"
    file.write_text(json.dumps({"languages": ["en"], "devices": devices}))
    rheon.manage("load_household", str(file))


def _made(rheon: Rheon) -> None:
    """A file in the Outbox."""
    title = rheon.ask("select id from shelf_title where name = 'Marram Nights, extra 3'")[0][0]
    target = rheon.ask("select id from bench_target order by id")[0][0]
    rheon.call("POST", "worklist/jobs", {"cells": [{"title_id": title, "target_id": target}]})


def _four_episodes(rheon: Rheon) -> None:
    """Four episodes for the pocket player."""
    asked = "select id from bench_target where device_id = (select id from household_device where name = ?)"
    target = rheon.ask(asked, "Pocket player")
    episodes = rheon.ask("select id from shelf_title where name like 'Lantern Street S1, episode %' order by id")
    cells = [{"title_id": title, "target_id": target[0][0]} for (title,) in episodes]
    rheon.call("POST", "worklist/jobs", {"cells": cells})


def _grandma_s_phone(rheon: Rheon) -> None:
    yes = ["camera_films_4k"]
    rheon.call("POST", "household/devices", {"profile_id": "phone-2015", "name": "Grandma’s phone", "yes": yes})


EMPTY = "empty"
FOUR = {"Ada’s phone": "wren-6", "Tablet": "heron-8", "Pocket player": "sanderling-2", "Attic": "cormorant-box"}
FIVE = {name: name for name in ("wren-6", "heron-8", "gannet-43", "cormorant-box", "sanderling-2")}
FILM_AND_SERIES = ("MARRAM_NIGHTS", "LANTERN_STREET_S1.iso", "camera/Kite day.mp4")
FIVE_DISCS = ("LOCK_KEEPERS", "LOCK_KEEPERS_D2", "HERON_REACH", "SALT_ROAD", "GLASS_HARBOUR")
STAGES: dict[str, tuple[str, Callable[[Rheon], None]]] = {
    "film and series": (EMPTY, lambda rheon: put(rheon, *FILM_AND_SERIES)),
    "four devices": ("film and series", lambda rheon: live(rheon, FOUR)),
    "a file made": ("four devices", _made),
    "four episodes made": ("four devices", _four_episodes),
    "five devices": ("film and series", lambda rheon: live(rheon, FIVE)),
    "five discs": (EMPTY, lambda rheon: put(rheon, *FIVE_DISCS)),
    "a phone": (EMPTY, _grandma_s_phone),
}
"""Each stage: the one that it begins with, and what is done then."""
