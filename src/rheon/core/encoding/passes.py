"""What the engine does to a file, pass by pass, and who hears of it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from pathlib import Path

from ..commands.making import Job, build_command
from ..commands.names import PICTURE_PIPE, pipe_name
from ..engine import Command, Feed, run
from ..errors import EngineError
from ..media import CellData, OutputSettings
from ..sources.material.feed import feed_title
from ..sources.material.seek import narrowed
from .hooks import Hooks, unheard
from .liveness import Liveness
from .progress import ProgressReader

LAST_PASS, MOST_AGAIN = 2, 2
SHORT_S = 60.0
"""Rate control has time enough in what is longer, and making that again would take long."""
NEAR_SIZE, FAR_SIZE = 0.01, 0.25
"""Shares of a size that was asked for: as near as it need be, and so far that the rate is not what missed it."""
MEANS_LOSS = (
    "ended prematurely", "corrupt", "concealing", "partial file", "Truncat", "truncated", "Invalid data",
    "non monotonically", "Error while decoding",
)  # fmt: skip
"""What the engine says where something of the source could not be read or decoded."""
AT_THE_END = ("ended prematurely", "partial file", "Truncat", "truncated")
"""Those of them that are about the end of a file, whenever they are said."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Followed:
    """Who is told how far the engine is, where its complaints are gathered, and when by their clock it began."""

    hooks: Hooks
    damage: list[tuple[float, str]]
    began_s: float

    def hear(self, text: str, at_s: float) -> None:
        if any(word in text for word in MEANS_LOSS):
            self.damage.append((at_s, text[:200]))


def make_passes(job: Job, folder: str, following: Followed, pictures: Feed | None = None) -> None:
    """Run the engine in ``folder`` until the file is made; ``pictures`` are those that come on a pipe of their own.

    Raises ``EngineError`` or ``Stopped``.
    """
    for at_pass in _passes(job.settings):
        run(_command(job, folder, following, at_pass, pictures))
    if pictures is None:
        _come_nearer(job, folder, following)


def _passes(settings: OutputSettings) -> tuple[int, ...]:
    return (1, LAST_PASS) if settings.video and settings.video.passes == LAST_PASS else (0,)


def _come_nearer(job: Job, folder: str, following: Followed) -> None:
    """Make a short file's last pass again where its size missed the one that was asked for: rate control needs time."""
    video, asked_bytes, lasts_s = job.settings.video, job.settings.asked_bytes, job.title.duration_s
    if video is None or video.bitrate_bps is None or video.passes != LAST_PASS or not asked_bytes or lasts_s > SHORT_S:
        return
    # it is all made already for those who watch; what was complained of comes once more
    quiet = replace(following, hooks=replace(following.hooks, on_progress=unheard))
    rate = float(video.bitrate_bps)
    for _ in range(MOST_AGAIN):
        missed_bytes = asked_bytes - Path(job.target).stat().st_size
        if not NEAR_SIZE < abs(missed_bytes) / asked_bytes < FAR_SIZE:
            return
        rate = max(rate / 2, rate + missed_bytes * 8 / lasts_s)
        nearer = replace(job, settings=replace(job.settings, video=replace(video, bitrate_bps=int(rate))))
        following.damage.clear()
        try:
            run(_command(nearer, folder, quiet, LAST_PASS, None))
        except EngineError:
            following.damage.clear()
            run(_command(job, folder, quiet, LAST_PASS, None))
            return


def _command(job: Job, folder: str, following: Followed, at_pass: int, pictures: Feed | None) -> Command:
    hooks, reached = following.hooks, [0.0]
    video = job.settings.video
    steady = video is not None and not video.variable_rate
    rate = float(video.frame_rate) if video and steady else None
    reader = ProgressReader(job.title.duration_s, hooks.clock, following.began_s, at_pass, rate)
    liveness = Liveness(hooks.clock, in_hardware=video is not None and bool(video.device))

    def should_stop() -> bool:
        liveness.look()
        return hooks.should_stop()

    def on_line(text: str) -> None:
        if progress := reader.line(text):
            reached[0] = progress.done
            liveness.came_to(progress)
            hooks.on_progress(progress)

    def on_complaint(text: str) -> None:
        # the first of two passes meets the same places
        if at_pass != 1:
            at_end = any(word in text for word in AT_THE_END)
            following.hear(text, job.title.duration_s if at_end else reached[0])

    feeds = {**_feeds(job), **({PICTURE_PIPE: pictures} if pictures else {})}
    return Command(
        argv=build_command(job, at_pass),
        timeout_s=None,
        gentle=True,
        feed=feeds.pop(pipe_name(0), None),
        feeds=feeds,
        cwd=folder,
        on_line=on_line,
        on_complaint=on_complaint,
        should_stop=should_stop,
        is_paused=hooks.clock.is_paused,
    )


def _feeds(job: Job) -> dict[str, Feed]:
    """What comes on pipes: a disc's title, or each of its pieces, by the pipe's name."""
    return {pipe_name(piece.number): feed for piece in job.each if (feed := feed_of(piece)) is not None}


def feed_of(job: Job) -> Feed | None:
    data = job.title.data
    if not isinstance(data, CellData):
        return None
    part = job.title.part_of is not None

    def feed() -> Iterator[bytes]:
        needed = narrowed(data, job.title.duration_s) if part else data
        return feed_title(needed, job.subpictures, job.cores, leads=job.decodes_picture, part=part)

    return feed
