import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";

import { under } from "../../api/base";
import type { Schemas } from "../../api/client";
import { across, type Framing, type Side, SIDES, type Sides, snapped, withSide } from "./framing";

const HEIGHT = 300;
const ROUGH_STEP = 16;
const FINE_STEP = 2;
const NAMES: Record<Side, string> = { top: "above", bottom: "below", left: "left", right: "right" };
const OUTWARDS: Record<Side, [string, string]> = {
  top: ["ArrowUp", "ArrowDown"],
  bottom: ["ArrowDown", "ArrowUp"],
  left: ["ArrowLeft", "ArrowRight"],
  right: ["ArrowRight", "ArrowLeft"],
};

interface Props {
  sheet: Schemas["Sheet"];
  framing: Framing;
  cut: Sides;
  at: number;
  moment: string;
  guides: boolean;
  onCut: (cut: Sides) => void;
}

/** The whole picture with the frame of what stays; its edges are moved by hand or by keys. */
export function CropFrame({ sheet, framing, cut, at, moment, guides, onCut }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const [moving, setMoving] = useState<Side[]>([]);
  const share = (side: Side) => (100 * cut[side]) / across(side, framing);
  const drag = (event: PointerEvent) => {
    const bounds = box.current?.getBoundingClientRect();
    if (!bounds || !moving.length) return;
    const places: Record<Side, number> = {
      top: (event.clientY - bounds.top) / bounds.height,
      bottom: (bounds.bottom - event.clientY) / bounds.height,
      left: (event.clientX - bounds.left) / bounds.width,
      right: (bounds.right - event.clientX) / bounds.width,
    };
    let next = cut;
    for (const side of moving)
      next = withSide(next, side, snapped(side, places[side] * across(side, framing), framing), framing);
    onCut(next);
  };
  const grab = (sides: Side[]) => (event: PointerEvent<HTMLElement>) => {
    event.preventDefault();
    box.current?.setPointerCapture(event.pointerId);
    event.currentTarget.focus();
    setMoving(sides);
  };
  const press = (side: Side) => (event: KeyboardEvent) => {
    const [out, inwards] = OUTWARDS[side];
    const step = event.shiftKey ? ROUGH_STEP : FINE_STEP;
    const to = { [out]: cut[side] - step, [inwards]: cut[side] + step, Home: 0 }[event.key];
    if (to === undefined) return;
    event.preventDefault();
    onCut(withSide(cut, side, to, framing));
  };
  return (
    <div
      ref={box}
      className="relative touch-none bg-screen select-none"
      style={{ aspectRatio: `${framing.aspect}`, width: `min(100%, ${HEIGHT * framing.aspect}px)` }}
      onPointerMove={drag}
      onPointerUp={() => setMoving([])}
      onPointerCancel={() => setMoving([])}
    >
      <div className="absolute inset-0 overflow-hidden">
        <WholePicture sheet={sheet} framing={framing} at={at} moment={moment} />
        <div
          className="pointer-events-none absolute shadow-[0_0_0_9999px_rgb(0_0_0/0.6)] outline-2 -outline-offset-1 outline-marigold"
          style={{
            top: `${share("top")}%`,
            bottom: `${share("bottom")}%`,
            left: `${share("left")}%`,
            right: `${share("right")}%`,
          }}
        />
      </div>
      {guides && <Guides aspect={framing.aspect} />}
      {SIDES.map((side) => (
        <EdgeHandle
          key={side}
          side={side}
          cut={cut}
          share={share}
          most={across(side, framing)}
          onGrab={grab([side])}
          onPress={press(side)}
        />
      ))}
      {CORNERS.map(([down, along]) => (
        <div
          key={down + along}
          aria-hidden
          onPointerDown={grab([down, along])}
          className={`absolute size-5 -translate-1/2 ${(down === "top") === (along === "left") ? "cursor-nwse-resize" : "cursor-nesw-resize"}`}
          style={{
            top: `${down === "top" ? share("top") : 100 - share("bottom")}%`,
            left: `${along === "left" ? share("left") : 100 - share("right")}%`,
          }}
        />
      ))}
    </div>
  );
}

const CORNERS: [Side, Side][] = [
  ["top", "left"],
  ["top", "right"],
  ["bottom", "left"],
  ["bottom", "right"],
];

interface EdgeProps {
  side: Side;
  cut: Sides;
  share: (side: Side) => number;
  most: number;
  onGrab: (event: PointerEvent<HTMLElement>) => void;
  onPress: (event: KeyboardEvent) => void;
}

function EdgeHandle({ side, cut, share, most, onGrab, onPress }: EdgeProps) {
  const flat = side === "top" || side === "bottom";
  const at = side === "top" || side === "left" ? share(side) : 100 - share(side);
  const middle = flat
    ? (share("left") + 100 - share("right")) / 2
    : (share("top") + 100 - share("bottom")) / 2;
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={`Cut away ${NAMES[side]}`}
      aria-orientation={flat ? "vertical" : "horizontal"}
      aria-valuemin={0}
      aria-valuemax={most}
      aria-valuenow={cut[side]}
      aria-valuetext={`${cut[side]} ${flat ? "lines" : "columns"} ${NAMES[side]}`}
      onPointerDown={onGrab}
      onKeyDown={onPress}
      className={`absolute flex -translate-1/2 items-center justify-center rounded-sm ${flat ? "h-4 w-16 cursor-ns-resize" : "h-16 w-4 cursor-ew-resize"}`}
      style={flat ? { top: `${at}%`, left: `${middle}%` } : { left: `${at}%`, top: `${middle}%` }}
    >
      <span className={`rounded-full bg-marigold ${flat ? "h-1.5 w-10" : "h-10 w-1.5"}`} />
    </div>
  );
}

function WholePicture({ sheet, framing, at, moment }: Pick<Props, "sheet" | "framing" | "at" | "moment">) {
  const [failed, setFailed] = useState("");
  const shape = `${framing.rotation}-${framing.aspect.toFixed(4)}`;
  const address = under(
    `/api/bench/plans/${sheet.title_id}/${sheet.target_id}/moments/${Math.round(at * 1000)}/whole.jpg?shape=${shape}`,
  );
  return failed === address ? (
    <span className="flex size-full items-center justify-center px-8 text-center text-screen-ink">
      No picture could be read here.
    </span>
  ) : (
    <img
      src={address}
      alt={`The whole picture, at ${moment}`}
      draggable={false}
      onError={() => setFailed(address)}
      className="size-full object-fill"
    />
  );
}

/** Squares as high as a face, and a circle: in the right shape they are seen as that. */
function Guides({ aspect }: { aspect: number }) {
  const high = 100;
  const wide = high * aspect;
  const lines = (to: number) => Array.from({ length: Math.ceil(to / CELL) }, (_, n) => n * CELL);
  return (
    <svg
      aria-hidden
      data-guides
      viewBox={`0 0 ${wide} ${high}`}
      className="pointer-events-none absolute inset-0 size-full fill-none stroke-screen-ink/70"
      strokeWidth={0.4}
    >
      {lines(wide).map((x) => (
        <path key={`x${x}`} d={`M${x} 0V${high}`} />
      ))}
      {lines(high).map((y) => (
        <path key={`y${y}`} d={`M0 ${y}H${wide}`} />
      ))}
      <circle
        cx={wide / 2}
        cy={high / 2}
        r={0.38 * Math.min(wide, high)}
        strokeWidth={0.9}
        className="stroke-marigold"
      />
    </svg>
  );
}

const CELL = 20;
