"""A file beside what it was made of, picture by picture, as both are seen on a screen. Pure."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from ..media import rate_text
from .inputs import safe_file_input
from .start import QUIET


class Model(StrEnum):
    """VMAF's models of how people judge: on a screen of 1080 lines, on one of 2160, and on a phone."""

    HD = "hd"
    UHD = "uhd"
    PHONE = "phone"


MODELS = {
    Model.HD: "version=vmaf_v0.6.1",
    Model.UHD: "version=vmaf_4k_v0.6.1",
    # on a small screen in the hand less is seen: the model's own curve for that
    Model.PHONE: "version=vmaf_v0.6.1\\\\:enable_transform=true",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Comparison:
    """Two files with the same pictures at ``frame_rate``, and the size (pixels) at which both are seen.

    ``model`` is VMAF's; ``None`` for SSIM. ``of_fields``: they show two moments, each of which counts. ``scored`` are
    the stretches (seconds of the files) that count, all of them where there are none. VMAF scores one of ``every`` so
    many pictures; the ones between are seen for how they move. Scores are written to ``log``, in the folder in which it
    runs.
    """

    made: str
    reference: str
    width: int
    height: int
    frame_rate: Fraction
    model: Model | None
    log: str
    of_fields: bool = False
    scored: tuple[tuple[float, float], ...] = ()
    every: int = 3


def comparing_command(program: str, comparison: Comparison) -> list[str]:
    """Each picture of the one beside the same of the other, counted from the first."""
    rate = rate_text(comparison.frame_rate)
    each = "bwdif=mode=send_field," if comparison.of_fields else ""
    seen = (
        f"{each}settb=AVTB,setpts=N/({rate})/TB,{_only(comparison)}"
        f"scale={comparison.width}:{comparison.height}:flags=bicubic,setsar=1,format=yuv420p"
    )
    if comparison.model is not None:
        judged = f"n_threads=2:n_subsample={comparison.every}:model={MODELS[comparison.model]}"
        scored = f"libvmaf=log_fmt=json:log_path={comparison.log}:{judged}"
    else:
        scored = f"ssim=stats_file={comparison.log}"
    graph = f"[0:v:0]{seen}[made];[1:v:0]{seen}[source];[made][source]{scored}"
    argv = [program, *QUIET[1:], "-nostdin", "-filter_complex_threads", "2"]
    argv += [*safe_file_input(comparison.made), *safe_file_input(comparison.reference)]
    return [*argv, "-filter_complex", graph, "-f", "null", "-"]


def _only(comparison: Comparison) -> str:
    # twice as many pictures, counted at the same rate, take twice as long
    longer = 2 if comparison.of_fields else 1
    inside = "+".join(f"gte(t,{a * longer:.4f})*lt(t,{b * longer:.4f})" for a, b in comparison.scored)
    return f"select='{inside}'," if inside else ""
