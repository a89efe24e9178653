"""What plans rest on of the machine that makes the files."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class HardwareEncoder:
    """An encoder in hardware that was tried on this machine and works.

    ``name`` is the engine's, ``family`` that of ``formats.hardware``, ``device`` the node that has it, ``depths`` the
    bits of a sample that it takes, ``pixels_per_s`` how quick it was. ``size_share`` is how large its files are at the
    fidelity of software's, which take 1; ``None`` where nobody measured.
    """

    name: str
    family: str
    codec: str
    device: str
    depths: tuple[int, ...] = (8,)
    pixels_per_s: float
    size_share: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Machine:
    """``pace`` is how many times as long it takes as the machines that Rheon was made for. ``encoders`` are those that
    it has in hardware, the one taken first in front; with ``prefers_speed`` they make whatever they can.
    """

    pace: float = 1.0
    encoders: tuple[HardwareEncoder, ...] = ()
    prefers_speed: bool = False


USUAL_MACHINE = Machine()
