import { type KeyboardEvent, type PointerEvent, useState } from "react";

import type { Schemas } from "../../api/client";
import { momentText } from "../../domain/durations";
import { SmallFrames } from "../../parts/small-frames";

interface Props {
  title: Schemas["Title"];
  at: number;
  onAt: (at: number) => void;
}

const STEPS: Record<string, number> = {
  ArrowLeft: -1,
  ArrowRight: 1,
  ArrowDown: -1,
  ArrowUp: 1,
  PageDown: -30,
  PageUp: 30,
};

/** Small frames along the time line with its chapters; a drag or the arrow keys go through the title. */
export function FilmStrip({ title, at, onAt }: Props) {
  const [hover, setHover] = useState<number | null>(null);
  const momentAt = (event: PointerEvent<HTMLDivElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    return Math.max(
      0,
      Math.min(title.duration_s, ((event.clientX - box.left) / box.width) * title.duration_s),
    );
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const step = STEPS[event.key];
    if (step === undefined) return;
    event.preventDefault();
    onAt(Math.max(0, Math.min(title.duration_s, at + step * Math.max(0.5, title.duration_s / 200))));
  };
  const across = (seconds: number) => `${(100 * seconds) / title.duration_s}%`;
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label="Moment"
      aria-valuemin={0}
      aria-valuemax={Math.round(title.duration_s)}
      aria-valuenow={Math.round(at)}
      aria-valuetext={momentText(at)}
      className="relative mt-1.5 h-11 cursor-col-resize touch-none overflow-hidden rounded-md bg-screen"
      onKeyDown={onKeyDown}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        onAt(momentAt(event));
      }}
      onPointerMove={(event) => {
        const moment = momentAt(event);
        setHover(moment);
        if (event.buttons === 1) onAt(moment);
      }}
      onPointerLeave={() => setHover(null)}
    >
      <SmallFrames titleId={title.id} count={title.strip} className="h-9" />
      {title.gaps.map((gap) => (
        <span
          key={gap.from_s}
          className="absolute inset-y-0 hatch-gap"
          title="Could not be read"
          style={{ left: across(gap.from_s), width: across(gap.to_s - gap.from_s) }}
        />
      ))}
      {title.chapters.slice(1).map((chapter) => (
        <span
          key={chapter.number}
          className="absolute bottom-0 h-2 w-px bg-screen-ink"
          style={{ left: across(chapter.start_s) }}
        />
      ))}
      <span
        className="absolute inset-y-0 w-[3px] -translate-x-1/2 bg-marigold"
        style={{ left: across(at) }}
      />
      {hover !== null && (
        <span
          className="pointer-events-none absolute bottom-0 rounded bg-screen px-1 text-[11px] text-screen-ink"
          style={{ left: `min(${across(hover)}, calc(100% - 44px))` }}
        >
          {momentText(hover)}
        </span>
      )}
    </div>
  );
}
