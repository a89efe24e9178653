import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";

import { under } from "../../api/base";
import type { Schemas } from "../../api/client";

const HEIGHT = 300;
const STEP = 0.05;

interface Props {
  sheet: Schemas["Sheet"];
  at: number;
  screen: { width: number; height: number };
  moment: string;
  /** What can be shown at once while the moment moves, until its own picture is there. */
  meanwhile: string | null;
  moving: boolean;
}

/**
 * The source at the left of a divide that can be moved, what will come out at its right, both as the screen
 * shows them.
 */
export function DividedFrame({ sheet, at, screen, moment, meanwhile, moving }: Props) {
  const [divide, setDivide] = useState(0.5);
  const [failed, setFailed] = useState<string | null>(null);
  const [there, setThere] = useState<string | null>(null);
  const box = useRef<HTMLDivElement>(null);
  const address = under(
    `/api/bench/plans/${sheet.title_id}/${sheet.target_id}/moments/${Math.round(at * 1000)}`,
  );
  // where the file has no picture made anew, it is the source's own
  const after = sheet.frame ? `${address}/after.jpg?look=${sheet.look}` : `${address}/before.jpg`;
  const encoded = sheet.treatment === "convert";
  const move = (event: PointerEvent) => {
    const bounds = box.current?.getBoundingClientRect();
    if (bounds && event.buttons)
      setDivide(Math.min(1, Math.max(0, (event.clientX - bounds.left) / bounds.width)));
  };
  const press = (event: KeyboardEvent) => {
    const step = { ArrowLeft: -STEP, ArrowRight: STEP, Home: -1, End: 1 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    setDivide((old) => Math.min(1, Math.max(0, old + step)));
  };
  return (
    <div
      ref={box}
      className="relative max-w-full touch-none overflow-hidden rounded-md bg-screen select-none"
      style={{ aspectRatio: `${screen.width} / ${screen.height}`, height: HEIGHT }}
      onPointerDown={(event) => (event.currentTarget.setPointerCapture(event.pointerId), move(event))}
      onPointerMove={move}
    >
      {failed === after ? (
        <span className="absolute inset-0 flex items-center justify-center px-8 text-center text-screen-ink">
          No picture could be read here.
        </span>
      ) : (
        <img
          src={after}
          alt={`As it will be, at ${moment}`}
          draggable={false}
          onLoad={() => setThere(after)}
          onError={() => setFailed(after)}
          className="absolute inset-0 size-full object-contain"
        />
      )}
      <div className="absolute inset-0 bg-screen" style={{ clipPath: `inset(0 ${100 * (1 - divide)}% 0 0)` }}>
        <img
          src={`${address}/before.jpg`}
          alt={`As on the source, at ${moment}`}
          draggable={false}
          className="size-full object-contain"
        />
      </div>
      {meanwhile && failed !== after && (moving || there !== after) && (
        <img
          src={meanwhile}
          alt=""
          draggable={false}
          data-meanwhile
          className="absolute inset-0 size-full bg-screen object-contain"
        />
      )}
      <span className="absolute top-2 left-2 rounded bg-screen/80 px-1.5 py-0.5 text-[12px] text-screen-ink">
        source
      </span>
      <span className="absolute top-2 right-2 rounded bg-screen/80 px-1.5 py-0.5 text-[12px] text-screen-ink">
        {encoded ? "as it will be" : "unchanged"}
      </span>
      <div
        className="absolute inset-y-0 w-0.5 -translate-x-1/2 bg-marigold"
        style={{ left: `${100 * divide}%` }}
        aria-hidden
      />
      <div
        role="slider"
        tabIndex={0}
        aria-label="Divide between source and result"
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(100 * divide)}
        aria-valuetext={`${Math.round(100 * divide)} % source`}
        onKeyDown={press}
        className="absolute top-1/2 size-6 -translate-x-1/2 -translate-y-1/2 cursor-ew-resize rounded-full border-2 border-marigold bg-deep"
        style={{ left: `${100 * divide}%` }}
      />
    </div>
  );
}
