import { type KeyboardEvent, type PointerEvent, useRef } from "react";

import { useLevels } from "../../api/bench";
import type { Schemas } from "../../api/client";
import { exactText, momentText } from "../../domain/durations";
import { SmallFrames } from "../../parts/small-frames";
import { SoundLane } from "../../parts/sound-lane";
import { useWidth } from "../../parts/width";
import { type Edge, moved, onPicture, shownOf, type KeptRange, stepOf, tidy, withRoom } from "./kept";

type Sheet = Schemas["Sheet"];

interface Props {
  sheet: Sheet;
  kept: KeptRange[];
  at: number;
  onAt: (at: number) => void;
  onKept: (kept: KeptRange[], follow: number) => void;
  onKey: (key: string) => boolean;
  /** Somebody's pointer or focus comes to the strip, or leaves it. */
  onNear: (near: boolean) => void;
}

/** Which moment a key leads to from another one: a picture, a second, a chapter, an end; null for other keys. */
function led(event: KeyboardEvent, from: number, sheet: Sheet): number | null {
  const step = event.shiftKey ? 1 : stepOf(sheet);
  switch (event.key) {
    case "ArrowLeft":
    case "ArrowDown":
      return from - step;
    case "ArrowRight":
    case "ArrowUp":
      return from + step;
    case "PageUp":
      return sheet.chapters.find((start) => start > from + 0.01) ?? sheet.duration_s;
    case "PageDown":
      return sheet.chapters.findLast((start) => start < from - 0.01) ?? 0;
    case "Home":
      return 0;
    case "End":
      return sheet.duration_s;
    default:
      return null;
  }
}

/** The title along a line: small frames, how loud it is, chapters, what is kept and what is left out, and the moment that is shown. */
export function KeptStrip({ sheet, kept: cut, at, onAt, onKept, onKey, onNear }: Props) {
  // where nothing is cut yet, the title's own ends can be taken hold of
  const kept = shownOf(cut, sheet.duration_s);
  const levels = useLevels(sheet.title_id).data?.levels ?? [];
  const heard = levels.length > 1;
  const box = useRef<HTMLDivElement>(null);
  const across = (seconds: number) => `${(100 * seconds) / sheet.duration_s}%`;
  const momentOf = (event: PointerEvent) => {
    const bounds = box.current?.getBoundingClientRect();
    return bounds ? ((event.clientX - bounds.left) / bounds.width) * sheet.duration_s : 0;
  };
  const press = (event: KeyboardEvent) => {
    const to = led(event, at, sheet);
    if (to !== null) onAt(onPicture(to, sheet));
    else if (!onKey(event.key)) return;
    event.preventDefault();
  };
  return (
    <div
      className="mt-2"
      onPointerEnter={() => onNear(true)}
      onPointerLeave={() => onNear(false)}
      onFocus={() => onNear(true)}
      onBlur={() => onNear(false)}
    >
      <div ref={box} className="relative h-[72px] select-none">
        <div
          role="slider"
          tabIndex={0}
          aria-label="Moment"
          aria-valuemin={0}
          aria-valuemax={sheet.duration_s}
          aria-valuenow={at}
          aria-valuetext={exactText(at)}
          onKeyDown={press}
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            onAt(onPicture(momentOf(event), sheet));
          }}
          onPointerMove={(event) => event.buttons === 1 && onAt(onPicture(momentOf(event), sheet))}
          className="absolute inset-0 cursor-col-resize touch-none overflow-hidden rounded-md bg-screen"
        >
          {sheet.strip > 0 && (
            <SmallFrames
              titleId={sheet.title_id}
              count={sheet.strip}
              className={heard ? "h-[52px] rounded-t-md" : "h-full rounded-md"}
            />
          )}
          {heard && (
            <SoundLane
              levels={levels}
              className={`w-full text-screen-ink/70 ${sheet.strip > 0 ? "mt-0.5 h-[16px]" : "h-full"}`}
            />
          )}
          {!heard && !sheet.strip && (
            <span className="absolute inset-x-2 top-1/2 h-px bg-screen-ink/40" title="Listening…" />
          )}
          <LeftOut kept={kept} duration={sheet.duration_s} />
        </div>
        {kept.flatMap((_, index) =>
          (["from_s", "until_s"] as const).map((edge) => (
            <Handle
              key={`${index}${edge}`}
              sheet={sheet}
              kept={kept}
              which={{ index, edge }}
              momentOf={momentOf}
              onKept={onKept}
            />
          )),
        )}
        <span
          className="pointer-events-none absolute -inset-y-1 w-[3px] -translate-x-1/2 rounded-full bg-marigold"
          style={{ left: across(at) }}
        />
      </div>
      <Chapters sheet={sheet} across={across} />
    </div>
  );
}

/** What lies before, between and behind the stretches. */
function LeftOut({ kept, duration }: { kept: KeptRange[]; duration: number }) {
  const starts = [0, ...kept.map((one) => one.until_s)];
  const ends = [...kept.map((one) => one.from_s), duration];
  return starts.map((start, index) => {
    const width = ((ends[index] ?? duration) - start) / duration;
    if (width <= 0) return null;
    return (
      <span
        key={index}
        title="Left out"
        className="pointer-events-none absolute inset-y-0 bg-ground/80 hatch-over text-quiet"
        style={{ left: `${(100 * start) / duration}%`, width: `${100 * width}%` }}
      />
    );
  });
}

interface HandleProps {
  sheet: Sheet;
  kept: KeptRange[];
  which: { index: number; edge: Edge };
  momentOf: (event: PointerEvent) => number;
  onKept: (kept: KeptRange[], follow: number) => void;
}

/** An edge of a stretch. The picture that follows it is its first one, or its last. */
function Handle({ sheet, kept, which, momentOf, onKept }: HandleProps) {
  const value = kept[which.index]?.[which.edge] ?? 0;
  const begins = which.edge === "from_s";
  const go = (to: number) => {
    const next = moved(kept, which, to, sheet);
    const edge = next[which.index]?.[which.edge] ?? to;
    onKept(tidy(next, sheet.duration_s), begins ? edge : Math.max(0, edge - stepOf(sheet)));
  };
  return (
    <span
      role="slider"
      tabIndex={0}
      aria-label={`${begins ? "Begin" : "End"} of stretch ${which.index + 1}`}
      aria-valuemin={0}
      aria-valuemax={sheet.duration_s}
      aria-valuenow={value}
      aria-valuetext={exactText(value)}
      onKeyDown={(event) => {
        const to = led(event, value, sheet);
        if (to === null) return;
        event.preventDefault();
        go(to);
      }}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        event.currentTarget.focus();
      }}
      onPointerMove={(event) => event.buttons === 1 && go(momentOf(event))}
      className={`absolute -inset-y-0.5 z-10 flex w-3 cursor-ew-resize touch-none items-center justify-center bg-river ${begins ? "rounded-l-md" : "-translate-x-full rounded-r-md"}`}
      style={{ left: `${(100 * value) / sheet.duration_s}%` }}
    >
      <span className="h-5 w-0.5 rounded-full bg-river-ink" aria-hidden />
    </span>
  );
}

const NUMBER_PX = 24;

/** Chapter marks with their numbers, as many of these as there is room for. */
function Chapters({ sheet, across }: { sheet: Sheet; across: (seconds: number) => string }) {
  const [box, width] = useWidth();
  const named = withRoom(
    sheet.chapters.map((start) => start / sheet.duration_s),
    width ? NUMBER_PX / width : 1,
  );
  return (
    <div ref={box} className="relative h-5" aria-hidden>
      {sheet.chapters.map((start, index) => (
        <span
          key={start}
          title={`Chapter ${index + 1}, ${momentText(start)}`}
          className={`absolute top-0.5 border-l pl-0.5 text-[11px] leading-4 text-quiet ${named[index] ? "border-quiet" : "h-1.5 border-hairline"}`}
          style={{ left: across(start) }}
        >
          {named[index] ? index + 1 : ""}
        </span>
      ))}
    </div>
  );
}
