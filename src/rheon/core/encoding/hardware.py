"""Encoders in hardware: each is tried with a real, short encode, and what comes out is looked at."""

from __future__ import annotations

import os
import shutil
import tempfile
import time
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from pathlib import Path

from ..commands.clips import ClipFile
from ..commands.clips import clip as clip_command
from ..commands.comparing import Comparison
from ..engine import Command, engine_encoders, run
from ..errors import EngineError
from ..formats import HARDWARE, Family, VideoEncoder, video_encoder
from ..media import Action, HardwareEncoder, Reason, VideoSettings
from .fidelity import scores_of

DEV = Path("/dev")
WIDTH, HEIGHT, RATE = 1280, 720, Fraction(25)
SHORT_S, LONG_S = 0.4, 2.4
"""The first says whether it works, the difference to the second how quick it is without its start."""
CLIP_BPS, PEAK_BPS = 4_000_000, 8_000_000
LIKE = 0.85
"""Structural likeness (SSIM) of a test picture that came out right at this rate; a wrong one has far less."""
TIMEOUT_S = 30
LOG = "scores"


@dataclass(frozen=True, slots=True, kw_only=True)
class HardwareTrial:
    """What trying an encoder of a family for a codec came to: ``works``, or else ``why`` it does not."""

    family: str
    codec: str
    works: HardwareEncoder | None = None
    why: Reason | None = None

    def failed_at_titles(self, said: Sequence[str]) -> HardwareTrial:
        """What worked when it was tried, but failed at titles since; of each what the engine said."""
        values: dict[str, object] = {"count": len(said), "said": said[-1]}
        return replace(self, works=None, why=Reason(code="hardware_failed_at_titles", values=values))


def hardware_mark(dev: Path = DEV) -> str:
    """Changes with what a trial could come out by: the engine, and the devices that this machine has now."""
    engine = shutil.which("ffmpeg")
    seen = [f"{engine}:{Path(engine).stat().st_mtime_ns}" if engine else "none"]
    for pattern in sorted({family.nodes for family in HARDWARE.values()}):
        for node in sorted(dev.glob(pattern)):
            stat = node.stat()
            seen.append(f"{node}:{stat.st_ino}:{stat.st_ctime_ns}:{_may_use(node)}")
    return " ".join(seen)


def try_hardware(dev: Path = DEV) -> tuple[HardwareTrial, ...]:
    """Every family and codec, in the order in which they are preferred. Raises ``ToolMissing`` or ``EngineError``."""
    built = engine_encoders()
    return tuple(_tried(family, codec, built, dev) for family in HARDWARE.values() for codec in family.blocks)


def working(trials: Iterable[HardwareTrial]) -> tuple[HardwareEncoder, ...]:
    """Those that can be used."""
    return tuple(trial.works for trial in trials if trial.works is not None)


def _tried(family: Family, codec: str, built: frozenset[str], dev: Path) -> HardwareTrial:
    encoder = family.encoder(codec)
    trial = HardwareTrial(family=family.name, codec=codec)
    if encoder.name not in built:
        return replace(trial, why=Reason(code="hardware_not_built", values={"encoder": encoder.name}))
    nodes = sorted(dev.glob(family.nodes))
    why = Reason(code="hardware_no_node", values={"place": _place(dev / family.nodes)})
    for node in nodes:
        if not _may_use(node):
            why = Reason(code="hardware_closed", values={"node": str(node), "group": _group(node)})
            continue
        try:
            return replace(trial, works=_working(encoder, codec, str(node)))
        except EngineError as error:
            why = Reason(code="hardware_failed", values={"node": str(node), "said": error.complaint})
    return replace(trial, why=why)


def _working(encoder: VideoEncoder, codec: str, node: str) -> HardwareEncoder:
    """Raises ``EngineError`` where it fails, also where other pictures come out than went in."""
    with tempfile.TemporaryDirectory(prefix="rheon-") as folder:
        work = Path(folder)
        eight = _settings(codec, encoder, node, encoder.profiles[-1] if encoder.profiles else None)
        begun_s = _made(work, eight, SHORT_S)
        _hold_against(work, _software(codec), SHORT_S)
        took_s = _made(work, eight, LONG_S)
        depths = [8, *([10] if _is_deep(work, codec, encoder, node) else [])]
    pixels = WIDTH * HEIGHT * float(RATE) * (LONG_S - SHORT_S)
    return HardwareEncoder(
        name=encoder.name,
        family=encoder.hardware or "",
        codec=codec,
        device=node,
        depths=tuple(depths),
        pixels_per_s=round(pixels / max(took_s - begun_s, 0.01)),
    )


def _is_deep(work: Path, codec: str, encoder: VideoEncoder, node: str) -> bool:
    if encoder.ten_bit_profile is None:
        return False
    deep = replace(_settings(codec, encoder, node, encoder.ten_bit_profile), bit_depth=10)
    try:
        _made(work, deep, SHORT_S)
        _hold_against(work, _software(codec), SHORT_S)
    except EngineError:
        return False
    return True


def _made(work: Path, made: VideoSettings, length_s: float) -> float:
    """How long it took, in seconds."""
    argv = clip_command(made, None, length_s, ClipFile(container="matroska", target=str(work / "made.mkv")))
    began_s = time.monotonic()
    run(Command(argv=argv, timeout_s=TIMEOUT_S))
    return time.monotonic() - began_s


def _hold_against(work: Path, clear: VideoSettings, length_s: float) -> None:
    """Raises ``EngineError`` where other pictures came out than went in, or not as many."""
    reference = work / "reference.mkv"
    if not reference.exists():
        file = ClipFile(container="matroska", target=str(reference))
        run(Command(argv=clip_command(clear, None, length_s, file), timeout_s=TIMEOUT_S))
    comparison = Comparison(
        made=str(work / "made.mkv"),
        reference=str(reference),
        width=WIDTH,
        height=HEIGHT,
        frame_rate=RATE,
        model=None,
        log=LOG,
    )
    scores = scores_of(comparison, work)
    if len(scores) != round(length_s * RATE) or sum(scores) / len(scores) < LIKE:
        raise EngineError("Other pictures came out than went in.", advice="")


def _settings(codec: str, encoder: VideoEncoder, node: str, profile: str | None) -> VideoSettings:
    return VideoSettings(
        action=Action.ENCODE,
        codec=codec,
        width=WIDTH,
        height=HEIGHT,
        sample_aspect=Fraction(1),
        frame_rate=RATE,
        profile=profile,
        encoder=encoder.name,
        device=node,
        bitrate_bps=CLIP_BPS,
        peak_bps=PEAK_BPS,
        buffer_bits=PEAK_BPS,
        reference_frames=encoder.references,
        b_frames=encoder.b_frames,
        keyframe_frames=round(RATE),
        preset=encoder.preset[0],
    )


def _software(codec: str) -> VideoSettings:
    """The test picture as clear as it went in."""
    encoder = video_encoder("h264")
    made = _settings("h264", encoder, "", None)
    return replace(made, quality=encoder.quality[-1], bitrate_bps=None, preset=encoder.clip_preset)


def _place(pattern: Path) -> str:
    """As a person reads where was looked: ``/dev/nvidia*`` for a pattern of names."""
    return str(pattern).replace("[0-9]", "")


def _may_use(node: Path) -> bool:
    return os.access(node, os.R_OK | os.W_OK)


def _group(node: Path) -> str:
    try:
        return node.group()
    except (KeyError, OSError):
        return ""
