"""How often Rheon is right, on material whose truth is known: ``make truth``. Prints figures; asserts nothing."""

from __future__ import annotations

import sys
import tempfile
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
MEDIA = ROOT / "demo-data" / "media"
sys.path[:0] = [str(ROOT), str(ROOT / "src"), str(Path(__file__).parent)]

from files import cases as conversions  # noqa: E402
from files import judged as converted  # noqa: E402
from sizes import sizes  # noqa: E402

from rheon.core.analysis import Survey, survey_title  # noqa: E402
from rheon.core.engine import Command, run  # noqa: E402
from rheon.core.media import Title  # noqa: E402
from rheon.core.sources import read_source  # noqa: E402
from rheon.demo import scenario  # noqa: E402

ROLES: dict[str, dict[int, str]] = {
    scenario.FILM_LABEL: {1: "feature", **dict.fromkeys(range(2, 7), "extra")},
    f"{scenario.SERIES_LABEL}.iso": dict.fromkeys(range(1, 5), "episode"),
    scenario.HERON_LABEL: {1: "menu", 2: "feature", 3: "duplicate", 4: "extra"},
    scenario.KEEPERS_LABEL: {1: "play_all", **dict.fromkeys(range(2, 6), "episode")},
    scenario.KEEPERS_REST_LABEL: {1: "play_all", **dict.fromkeys(range(101, 105), "episode")},
    scenario.FERRY_LABEL: {1: "feature", 2: "duplicate"},
    scenario.DAMAGED_LABEL: {1: "feature"},
    scenario.TIDE_WATCH_LABEL: dict.fromkeys(range(1, 4), "episode"),
}
LANGUAGES: dict[tuple[str, int], tuple[list[str], list[str]]] = {
    (scenario.FILM_LABEL, 1): (["en", "es"], ["en", "es"]),
    (f"{scenario.SERIES_LABEL}.iso", 1): (["en"], []),
    (scenario.HERON_LABEL, 2): (["en", "es"], ["en"]),
    (scenario.HERON_LABEL, 4): (["es"], []),
    (scenario.KEEPERS_LABEL, 2): (["en"], []),
    (scenario.FERRY_LABEL, 1): (["en"], []),
    (scenario.TIDE_WATCH_LABEL, 1): (["und"], ["es"]),
}

SCAN_TYPES = {
    "progressive": ("", "progressive", None),
    "upper field first": ("setpts=PTS/2,fps=50,interlace=scan=tff:lowpass=0,", "interlaced", True),
    "lower field first": ("setpts=PTS/2,fps=50,interlace=scan=bff:lowpass=0,", "interlaced", False),
    "telecined": ("fps=24000/1001,telecine=first_field=top:pattern=23,", "telecined", True),
    "telecined, grain": (
        "fps=24000/1001,noise=alls=24:allf=t,telecine=first_field=bottom:pattern=23,",
        "telecined",
        False,
    ),
    "progressive, grain": ("noise=alls=24:allf=t,", "progressive", None),
    "interlaced, grain": ("setpts=PTS/2,fps=50,noise=alls=24:allf=t,interlace=scan=tff:lowpass=0,", "interlaced", True),
}
BORDERS = {(0, 0, 0, 0), (60, 60, 0, 0), (44, 76, 0, 0), (0, 0, 88, 88), (30, 30, 40, 40)}
SIZE = (720, 480)


@dataclass(frozen=True, slots=True, kw_only=True)
class Case:
    """A file to make: how its frames are taken, and (top, bottom, left, right) of its borders."""

    scan_type: str
    borders: tuple[int, int, int, int]


class Score:
    """Counts of right and wrong by subject, with the wrong ones named."""

    def __init__(self) -> None:
        self.right: Counter[str] = Counter()
        self.all: Counter[str] = Counter()
        self.wrong: list[str] = []

    def count(self, subject: str, ok: bool, said: str) -> None:
        self.all[subject] += 1
        self.right[subject] += ok
        if not ok:
            self.wrong.append(f"{subject}: {said}")


def make_case(case: Case, folder: Path) -> Path:
    top, bottom, left, right = case.borders
    filters, _, _ = SCAN_TYPES[case.scan_type]
    width, height = SIZE[0] - left - right, SIZE[1] - top - bottom
    target = folder / f"{case.scan_type}-{'-'.join(map(str, case.borders))}.mpg"
    graph = f"scale={width}:{height},{filters}pad={SIZE[0]}:{SIZE[1]}:{left}:{top},noise=alls=3:allf=t,format=yuv420p"
    argv = ["ffmpeg", "-v", "error", "-nostdin", "-i", str(MEDIA / "camera" / "Kite day.mp4"), "-an", "-vf", graph]
    argv += ["-c:v", "mpeg2video", "-b:v", "5M", "-flags", "+ildct+ilme"]
    run(Command(argv=[*argv, "-f", "dvd", str(target)], timeout_s=120))
    return target


def cases() -> Iterator[Case]:
    for scan_type in SCAN_TYPES:
        for borders in sorted(BORDERS):
            yield Case(scan_type=scan_type, borders=borders)


def judge(score: Score, case: Case, found: Survey) -> None:
    name = f"{case.scan_type}, borders {case.borders}"
    _, scan, top_first = SCAN_TYPES[case.scan_type]
    scan_type, edges = found.scan_type, found.borders
    score.count("scan_type", scan_type is not None and scan_type.scan.value == scan, f"{name}: {scan_type}")
    if top_first is not None:
        score.count("field order", scan_type is not None and scan_type.top_field_first == top_first, name)
    seen = (edges.top, edges.bottom, edges.left, edges.right) if edges else None
    near = seen is not None and all(abs(a - b) <= 2 for a, b in zip(seen, case.borders, strict=True))
    score.count("borders, within 2 lines", near, f"{name}: {seen}")


def discs(score: Score) -> None:
    for label, roles in ROLES.items():
        titles = {title.number: title for title in read_source(MEDIA / label).titles}
        for number, role in roles.items():
            title: Title | None = titles.get(number)
            score.count(
                "roles", title is not None and title.role.value == role, f"{label} {number}: {title and title.role}"
            )
    for (label, number), (sounds, subtitles) in LANGUAGES.items():
        title = next(title for title in read_source(MEDIA / label).titles if title.number == number)
        found = ([track.language for track in title.audio], [track.language for track in title.subtitles])
        score.count("languages", found == (sounds, subtitles), f"{label} {number}: {found}")


def files(score: Score, folder: Path) -> Iterator[str]:
    """What comes out of whole conversions against what was built."""
    work, out = folder / "work", folder / "out"
    work.mkdir()
    out.mkdir()
    for case in conversions(work):
        result = converted(case, out)
        if result is None:
            continue
        yield result.name
        for subject, (ok, said) in result.points.items():
            score.count(subject, ok, f"{result.name}: {said}")


def promised(score: Score, folder: Path) -> None:
    """How often a file is as large as was promised, before anybody looked and after samples: wanted is four of five."""
    for sized in sizes(MEDIA, folder):
        subject = "size in its range, " + ("after samples" if sized.sampled else "before looking")
        score.count(
            subject, sized.inside, f"{sized.name}: {sized.size_bytes} of {sized.low_bytes} to {sized.high_bytes}"
        )


def main() -> None:
    score = Score()
    discs(score)
    with tempfile.TemporaryDirectory() as folder:
        for case in cases():
            judge(score, case, survey_title(read_source(make_case(case, Path(folder))).titles[0]))
        made = list(files(score, Path(folder)))
        promised(score, Path(folder) / "out")
    print(f"{'conversions':<40} {len(made):>4}")
    for subject, count in score.all.items():
        print(f"{subject:<40} {score.right[subject]:>4} of {count}")
    for wrong in score.wrong:
        print("  wrong:", wrong)


if __name__ == "__main__":
    main()
