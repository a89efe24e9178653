import { type KeyboardEvent, type PointerEvent, type ReactNode, useRef, useState } from "react";

const HEIGHT = 300;
const STEP = 0.05;

interface Props {
  screen: { width: number; height: number };
  /** Nothing where there is nothing to compare with. */
  source: ReactNode | null;
  /** The source cannot be seen yet: what comes out is shown whole until then. */
  follows?: boolean;
  made: ReactNode;
  /** What the right side is called. */
  madeWord: string;
  /** Drawn over both. */
  children?: ReactNode;
}

/** The source at the left of a divide that can be moved, what will come out at its right, both as the screen shows them. */
export function Divide({ screen, source, follows = false, made, madeWord, children }: Props) {
  const [divide, setDivide] = useState(0.5);
  const box = useRef<HTMLDivElement>(null);
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
      {made}
      {source && (
        <div
          className={`absolute inset-0 bg-screen ${follows ? "invisible" : ""}`}
          style={{ clipPath: `inset(0 ${100 * (1 - divide)}% 0 0)` }}
        >
          {source}
        </div>
      )}
      {children}
      {source && <Word side="left-2">{follows ? "source follows…" : "source"}</Word>}
      <Word side="right-2">{madeWord}</Word>
      {source && !follows && <Handle divide={divide} onKeyDown={press} />}
    </div>
  );
}

function Word({ side, children }: { side: string; children: ReactNode }) {
  return (
    <span className={`absolute top-2 rounded bg-screen/80 px-1.5 py-0.5 text-[12px] text-screen-ink ${side}`}>
      {children}
    </span>
  );
}

function Handle({ divide, onKeyDown }: { divide: number; onKeyDown: (event: KeyboardEvent) => void }) {
  return (
    <>
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
        onKeyDown={onKeyDown}
        className="absolute top-1/2 size-6 -translate-x-1/2 -translate-y-1/2 cursor-ew-resize rounded-full border-2 border-marigold bg-deep"
        style={{ left: `${100 * divide}%` }}
      />
    </>
  );
}
