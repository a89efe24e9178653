"""Moving pictures and sound for the demo, made by the engine from painted layers."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from rheon.core.engine import Command, run

from .paint import LAYERS, paint_caption, paint_scene
from .scenario import Programme

TIMEOUT_S = 280
QUIET = ["ffmpeg", "-hide_banner", "-loglevel", "error", "-nostdin", "-y"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Look:
    """How footage is painted: square-pixel ``size``, frames a second, and the black border above and below."""

    size: tuple[int, int]
    rate: str
    border: int = 0


def picture_arguments(programme: Programme, look: Look, work: Path) -> tuple[list[str], str]:
    """Inputs and filter graph that show a programme; the graph's last pad is ``[seen]``."""
    inputs: list[str] = []
    parts: list[str] = []
    width, height = look.size[0], look.size[1] - 2 * look.border
    caption = work / "caption.png"
    work.mkdir(parents=True, exist_ok=True)
    paint_caption(programme.caption, caption)
    for number, palette in enumerate(programme.scenes):
        layers = paint_scene(palette, (width, height), work / f"scene{number}", seed=number + len(programme.name))
        first = number * (LAYERS + 3)
        for path in layers:
            inputs += ["-framerate", look.rate, "-i", str(path)]
        parts.append(_scene_graph(first, number, (width, height), programme.scene_s))
    pieces = "".join(f"[s{number}]" for number in range(len(programme.scenes)))
    last = len(programme.scenes) * (LAYERS + 3)
    inputs += ["-i", str(caption)]
    pad = f",pad={look.size[0]}:{look.size[1]}:0:{look.border}" if look.border else ""
    parts.append(f"{pieces}concat=n={len(programme.scenes)}:v=1:a=0[all]")
    parts.append(f"[all][{last}:v]overlay=24:{height - 64}:enable='lt(t,6)',format=yuv420p{pad}[seen]")
    return inputs, ";".join(parts)


def _scene_graph(first: int, number: int, size: tuple[int, int], seconds: float) -> str:
    """Lay the strata of one scene over its sky, each faster than the one behind; a boat sails, gulls fly over."""
    width, height = size
    # each still is decoded once and repeated inside the graph
    again = "loop=loop=-1:size=1:start=0"
    chain = [f"[{first}:v]format=yuv420p,{again},trim=duration={seconds}[sky{number}]"]
    chain += [f"[{first + layer}:v]format=yuva420p,{again}[still{number}_{layer}]" for layer in range(1, LAYERS + 3)]
    below = f"sky{number}"
    for depth in range(LAYERS):
        drift = f"overlay=x='-mod(t*{6 + 13 * depth},{width})':y='3*sin(t*{depth + 1}/2)':shortest=1"
        chain.append(f"[{below}][still{number}_{depth + 1}]{drift}[n{number}_{depth}]")
        below = f"n{number}_{depth}"
        if depth == 1:
            sail = f"overlay=x='{width * 0.12:.0f}+t*9':y='{height * 0.52:.0f}+4*sin(t*1.7)':shortest=1"
            chain.append(f"[{below}][still{number}_{LAYERS + 1}]{sail}[boat{number}]")
            below = f"boat{number}"
    flight = f"overlay=x='mod(t*{width * 0.21:.0f},{width * 1.3:.0f})-{width * 0.2:.0f}':y='{height * 0.14:.0f}"
    chain.append(f"[{below}][still{number}_{LAYERS + 2}]{flight}+{height * 0.05:.0f}*sin(t*2)':shortest=1[all{number}]")
    return ";".join(chain) + f";[all{number}]setsar=1[s{number}]"


def sound(seconds: float, *, root_hz: float, surround: bool) -> list[str]:
    """A filter input that plays a slow melody over the sea; in 5.1 the voice keeps to the centre."""
    notes = f"sin({root_hz}*2*PI*t*(1+0.25*floor(mod(t/1.5,4))/2))*exp(-1.2*mod(t,1.5))"
    sea = "(random(0)-0.5)*0.10*(1.2+sin(2*PI*t/7))"
    voice = f"0.22*sin({root_hz / 2}*2*PI*t+3*sin(2*PI*3.1*t))*lt(mod(t,9),4)"
    side = f"0.22*{notes}+{sea}"
    if surround:
        channels, layout = f"{side}|{side}|{voice}|0.06*sin(2*PI*50*t)|{sea}|{sea}", "5.1"
    else:
        channels, layout = f"{side}+0.7*{voice}|{side}+0.7*{voice}", "stereo"
    return ["-f", "lavfi", "-t", str(seconds), "-i", f"aevalsrc='{channels}':s=48000:c={layout}"]


def make(arguments: list[str]) -> None:
    """Run the engine on arguments of the demo's own making."""
    run(Command(argv=[*QUIET, *arguments], timeout_s=TIMEOUT_S))
