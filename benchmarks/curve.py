"""Whether what is measured of a few seconds holds for whole files: ``make curve``. Prints figures; asserts nothing.

Twelve titles at five balances each: the order of their fidelity, their sizes inside the range that was told, and what
was asked for by fidelity and by size. Whole files are scored whole.
"""

from __future__ import annotations

import itertools
import sys
import tempfile
from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
MEDIA = ROOT / "demo-data" / "media"
sys.path[:0] = [str(ROOT / "src")]

from rheon.core.analysis import sample_pictures, survey_title, with_findings  # noqa: E402
from rheon.core.commands.comparing import Comparison  # noqa: E402
from rheon.core.devices import DeviceKind, DeviceProfile, catalogue  # noqa: E402
from rheon.core.encoding import (  # noqa: E402
    Fidelity,
    Viewing,
    fidelity,
    make_file,
    measure_fidelity,
    measured_rate,
    reference_in,
    reference_settings,
    together,
    turns_of,
)
from rheon.core.engine import Command, run, vmaf_engine  # noqa: E402
from rheon.core.media import OutputSettings, Title, mark_of  # noqa: E402
from rheon.core.planning import Balance, Plan, PlanRequest, plan, read_pins  # noqa: E402
from rheon.core.planning.picture.rate_search import RateSearch, quality_for  # noqa: E402
from rheon.core.sources import read_source  # noqa: E402
from rheon.demo.models import device  # noqa: E402

LONG_S = 24
SIZE = "720x576"
MIB = 1 << 20
NEAR = 0.4

DISCS = (
    ("MARRAM_NIGHTS", 2, "heron-8"),
    ("LANTERN_STREET_S1.iso", 1, "sanderling-2"),
    ("HERON_REACH", 2, "car-2008"),
    ("LOCK_KEEPERS", 1, "wren-6"),
    ("camera/Kite day.mp4", 1, "handheld-2012"),
    ("THE_LAST_FERRY", 1, "gannet-43"),
)
AUTHORED = (
    # grain that comes half-way, a zoom without end, cells that flicker, slow colours, cuts, noise that breathes
    ("grain", f"testsrc2=s={SIZE}:r=25:d={LONG_S},noise=alls=16:allf=t:enable='gt(t,12)'", "tablet-2010"),
    ("zoom", f"mandelbrot=s={SIZE}:r=25,trim=duration={LONG_S}", "phone-2012"),
    ("cells", f"life=s=180x144:r=25:mold=10:ratio=0.2:seed=7,trim=duration={LONG_S},scale={SIZE}", "car-2008"),
    ("colours", f"gradients=s={SIZE}:r=25:d={LONG_S}:seed=3:nb_colors=6,noise=alls=5:allf=t", "projector-small"),
    ("cuts", f"testsrc2=s={SIZE}:r=25:d={LONG_S},hue='h=90*floor(t/3)',rotate='floor(t/3)/3'", "handheld-2005"),
    ("breath", f"mandelbrot=s={SIZE}:r=25:start_scale=0.5,trim=duration={LONG_S},noise=alls=9:allf=t", "tablet-2010"),
)  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class Case:
    """A title that was looked at, for a device, and the folder to work in."""

    name: str
    request: PlanRequest
    work: Path

    @property
    def viewing(self) -> Viewing:
        screen = self.request.devices[0].screen
        in_hand = self.request.devices[0].kind is DeviceKind.PHONE
        return Viewing(screen=(screen.width, screen.height) if screen else None, in_hand=in_hand)

    def plan(self, balance: Balance, **pins: str) -> Plan:
        said = {f"picture.{key}": value for key, value in pins.items()}
        return plan(replace(self.request, balance=balance, pins=read_pins(said)))


@dataclass(frozen=True, slots=True, kw_only=True)
class Point:
    """A balance: what a few seconds said of it, what its whole file keeps, and how large that was to be and is:
    by the seconds, and before by samples.
    """

    quality: int | None
    seconds: float
    whole: float
    size_bytes: int
    told_bytes: tuple[int, int]
    sampled_bytes: tuple[int, int]


@dataclass(slots=True, kw_only=True)
class Tally:
    """What was found, one entry for each comparison."""

    order: list[bool] = field(default_factory=list)
    sizes: list[bool] = field(default_factory=list)
    sampled: list[bool] = field(default_factory=list)
    off: list[float] = field(default_factory=list)
    fidelity_off: list[float] = field(default_factory=list)
    size_off: list[float] = field(default_factory=list)


def cases(folder: Path) -> Iterator[Case]:
    for path, number, device_id in DISCS:
        title = next(one for one in read_source(MEDIA / path).titles if one.number == number)
        yield case(f"{path} {number}", title, device_id, folder)
    for name, source, device_id in AUTHORED:
        target = folder / f"{name}.mkv"
        argv = ["ffmpeg", "-v", "error", "-nostdin", "-f", "lavfi", "-i", f"{source},format=yuv420p"]
        argv += ["-f", "lavfi", "-i", f"anoisesrc=d={LONG_S}:a=0.05", "-t", str(LONG_S)]
        argv += ["-c:v", "mpeg2video", "-b:v", "8M", "-maxrate", "9M", "-bufsize", "2M", "-c:a", "ac3", str(target)]
        run(Command(argv=argv, timeout_s=300))
        yield case(name, read_source(target).titles[0], device_id, folder)


def case(name: str, title: Title, device_id: str, folder: Path) -> Case:
    looked = with_findings(title, survey_title(title))
    work = folder / mark_of(name, device_id)
    work.mkdir()
    request = PlanRequest(
        title=looked, devices=(profile(device_id),), name="made", languages=("en",), samples=sample_pictures(title)
    )
    return Case(name=f"{name} for {device_id}", request=request, work=work)


def profile(device_id: str) -> DeviceProfile:
    return catalogue().get(device_id) or device(device_id)


def turns_in(one: Case, made: OutputSettings) -> list[Fidelity]:
    """What is measured of a way to make the file, turn by turn."""
    title = one.request.title
    return [
        measure_fidelity(title, made, one.viewing, reference_in(one.work, title, made, turn))
        for turn in range(turns_of(title, made))
    ]


def seconds_of(one: Case, made: OutputSettings) -> Fidelity:
    return together(turns_in(one, made))


def whole_of(one: Case, made: OutputSettings) -> tuple[float, int]:
    """What a whole file keeps of the whole source, and its size in bytes."""
    title = one.request.title
    assert made.video is not None and title.video is not None
    clear = replace(reference_settings(title, made), kept=(), duration_s=title.duration_s)
    source = one.work / f"{mark_of(clear)}.mkv"
    if not source.exists():
        make_file(title, clear, source)
    target = one.work / Path(made.file_name).name
    make_file(title, made, target)
    size_bytes = target.stat().st_size
    model = one.viewing.model_for(title.video) if vmaf_engine() else None
    width, height = one.viewing.size_of(made.video, model)
    comparison = Comparison(
        made=str(target), reference=str(source), width=width, height=height, frame_rate=made.video.frame_rate,
        model=model, log="whole",
    )  # fmt: skip
    scores = fidelity.scores_of(comparison, one.work, vmaf_engine() or "ffmpeg")
    target.unlink()
    return sum(scores) / len(scores), size_bytes


def judge(one: Case, tally: Tally) -> None:
    points = [found for balance in Balance if (found := point(one, balance))]
    for first, other in itertools.combinations(points, 2):
        tally.order.append((first.seconds < other.seconds) == (first.whole < other.whole))
    for found in points:
        tally.sizes.append(found.told_bytes[0] <= found.size_bytes <= found.told_bytes[1])
        tally.sampled.append(found.sampled_bytes[0] <= found.size_bytes <= found.sampled_bytes[1])
        tally.off.append(abs(found.seconds - found.whole))
    said = ", ".join(f"{found.seconds:.1f}/{found.whole:.1f} {found.size_bytes / MIB:.2f}" for found in points)
    print(f"{one.name}: seconds/whole, MiB: {said}", flush=True)
    asked(one, points, tally)


def point(one: Case, balance: Balance) -> Point | None:
    made = one.plan(balance)
    if made.settings is None or made.settings.video is None or made.estimate is None:
        return None
    if not fidelity.is_measurable(one.request.title, made.settings):
        return None
    score, size_bytes = whole_of(one, made.settings)
    turns = turns_in(one, made.settings)
    rate = measured_rate([one.stretches for one in turns], len(turns), made.settings)
    measured = {made.settings.picture_mark: rate} if rate else {}
    told = plan(replace(one.request, balance=balance, measured_rates=measured)).estimate
    assert told is not None
    return Point(
        quality=made.settings.video.quality,
        seconds=together(turns).mean,
        whole=score,
        size_bytes=size_bytes,
        told_bytes=(told.size_low_bytes, told.size_high_bytes),
        sampled_bytes=(made.estimate.size_low_bytes, made.estimate.size_high_bytes),
    )


def asked(one: Case, points: list[Point], tally: Tally) -> None:
    """A fidelity between those that were measured, and a size between those that came out."""
    known = [(found.quality, found.seconds) for found in points if found.quality is not None]
    if len(known) > 1:
        wanted = (known[0][1] + known[-1][1]) / 2
        quality, tries = sought(one, wanted, known)
        got, _ = whole_of(one, settings(one.plan(Balance.EVEN, rate=f"quality:{quality}")))
        tally.fidelity_off.append(got - wanted)
        print(f"  asked for {wanted:.1f}, got {got:.1f} at {quality}, in {tries} tries of {known}", flush=True)
    wanted_mb = max(2, round((points[0].size_bytes + points[-1].size_bytes) / 2e6))
    _, size_bytes = whole_of(one, settings(one.plan(Balance.EVEN, rate=f"size:{wanted_mb}")))
    tally.size_off.append(size_bytes / (wanted_mb * 1e6) - 1)
    print(f"  asked for {wanted_mb} MB, got {size_bytes / 1e6:.3f}", flush=True)


def sought(one: Case, wanted: float, known: list[tuple[int, float]]) -> tuple[int, int]:
    """The quality that is found for a fidelity, and in how many tries."""
    search = RateSearch(wanted=wanted, near=NEAR, points=known)
    quality = quality_for(wanted, known)
    assert quality is not None
    while quality not in search.tried:
        made = settings(one.plan(Balance.EVEN, rate=f"quality:{quality}"))
        quality = search.after(quality, seconds_of(one, made).mean)
    return quality, len(search.tried)


def settings(made: Plan) -> OutputSettings:
    assert made.settings is not None
    return made.settings


def share(found: list[bool]) -> str:
    return f"{sum(found)} of {len(found)} ({sum(found) / max(1, len(found)):.0%})"


def main() -> None:
    tally = Tally()
    with tempfile.TemporaryDirectory() as folder:
        for one in cases(Path(folder)):
            judge(one, tally)
    print("measure:", "VMAF" if vmaf_engine() else "SSIM")
    print("order of fidelity right:", share(tally.order), "wanted 95 %")
    print("size inside its range:", share(tally.sizes), "wanted 80 %; before, by samples:", share(tally.sampled))
    print(f"seconds against whole: mean {sum(tally.off) / len(tally.off):.2f}, worst {max(tally.off):.2f}")
    met = [abs(off) <= 1 for off in tally.fidelity_off]
    print("asked fidelity within 1:", share(met), [round(off, 2) for off in tally.fidelity_off])
    met = [abs(off) <= 0.02 for off in tally.size_off]
    print("asked size within 2 %:", share(met), [f"{off:+.1%}" for off in tally.size_off])


if __name__ == "__main__":
    main()
