"""Whether sizes come out inside the range that was promised, before anybody looked and after samples were taken."""

from __future__ import annotations

import uuid
from collections.abc import Iterator
from dataclasses import dataclass, replace
from pathlib import Path

from rheon.core.analysis import sample_pictures, survey_title, with_findings
from rheon.core.delivery import Order, convert
from rheon.core.errors import RheonError
from rheon.core.media import Title
from rheon.core.media.samples import Samples
from rheon.core.planning import Balance, PlanRequest, plan
from rheon.core.sources import read_source
from rheon.demo import scenario
from rheon.demo.models import device

DISCS = (scenario.FILM_LABEL, scenario.HERON_LABEL, f"{scenario.SERIES_LABEL}.iso", scenario.KEEPERS_LABEL, "camera")
DEVICES = ("wren-6", "curlew-2", "heron-8", "petrel-24", "sound-as-flac", "faithful-copy")
LONGEST_S = 45.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Sized:
    """One conversion: what it was, how large it came out, and the range and middle that were promised."""

    name: str
    sampled: bool
    size_bytes: int
    low_bytes: int
    high_bytes: int
    expected_bytes: int

    @property
    def inside(self) -> bool:
        return self.low_bytes <= self.size_bytes <= self.high_bytes


def sizes(media: Path, folder: Path) -> Iterator[Sized]:
    """Every short title of the demo sources for six profiles, lean and rich by turns; two promises for each file."""
    turn = 0
    for path in (entry for label in DISCS for entry in _sources(media / label)):
        for title in read_source(path).titles:
            if title.duration_s > LONGEST_S:
                continue
            looked = with_findings(title, survey_title(title))
            samples = _samples(looked)
            for device_id in DEVICES:
                turn += 1
                balance = Balance.LEAN if turn % 2 else Balance.RICH
                yield from _made(
                    looked, samples, (device_id, balance), folder, replace(title, name=f"{path.name} {title.number}")
                )


def _samples(title: Title) -> Samples | None:
    try:
        return sample_pictures(title)
    except RheonError:
        return None


def _sources(path: Path) -> list[Path]:
    return sorted(path.iterdir()) if path.name == "camera" else [path]


def _made(
    looked: Title, samples: Samples | None, wanted: tuple[str, Balance], folder: Path, unseen: Title
) -> Iterator[Sized]:
    device_id, balance = wanted
    profile = device(device_id)
    request = PlanRequest(
        title=looked, devices=(profile,), name="made", languages=("en",), balance=balance, samples=samples
    )
    final = plan(request)
    if final.settings is None:
        return
    order = Order(title=looked, plan=final, devices=[profile], folder=folder, token=uuid.uuid4().hex)
    done = convert(order)
    first = plan(PlanRequest(title=unseen, devices=(profile,), name="made", languages=("en",), balance=balance))
    for made, sampled in ((first, False), (final, samples is not None)):
        assert made.estimate is not None
        yield Sized(
            name=f"{unseen.name} for {device_id}, {balance.value}",
            sampled=sampled,
            size_bytes=done.size_bytes,
            low_bytes=made.estimate.size_low_bytes,
            high_bytes=made.estimate.size_high_bytes,
            expected_bytes=made.estimate.size_bytes,
        )
    done.path.unlink()
