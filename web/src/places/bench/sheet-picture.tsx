import { useState } from "react";

import type { Schemas } from "../../api/client";
import { durationText, momentText } from "../../domain/durations";
import { Frame } from "../../parts/frame";
import { DividedFrame } from "./divided-frame";

const FRAMES = 6;

/**
 * The picture before and after on the device's own screen, in its true proportions, and the time line it is
 * from.
 */
export function SheetPicture({ sheet }: { sheet: Schemas["Sheet"] }) {
  const [shown, setShown] = useState(2);
  const at = (number: number) => (sheet.duration_s * (number + 0.5)) / FRAMES;
  const screen = sheet.screen ?? sheet.frame ?? { width: 16, height: 9 };
  return (
    <div>
      <div className="flex justify-center rounded-card bg-deep p-4">
        {sheet.frame ? (
          <DividedFrame sheet={sheet} number={shown} screen={screen} moment={momentText(at(shown))} />
        ) : (
          <span className="flex h-[300px] items-center px-8 text-center text-deep-ink">
            {sheet.treatment === "convert" || sheet.treatment === "rewrap"
              ? "Only the sound goes into this file."
              : "Nothing is made here."}
          </span>
        )}
      </div>
      <p className="mt-2 flex justify-between gap-4 text-[13px] text-quiet">
        <span>
          {momentText(at(shown))} of {durationText(sheet.duration_s)}
        </span>
        <span>
          {sheet.frame && `${sheet.frame.width} × ${sheet.frame.height} `}
          {sheet.screen &&
            `on the ${sheet.screen.width} × ${sheet.screen.height} screen of ${sheet.target_name}`}
        </span>
      </p>
      <div
        className="relative mt-2 grid grid-cols-6 gap-px overflow-hidden rounded-md"
        role="group"
        aria-label="Time line"
      >
        {Array.from({ length: FRAMES }, (_, number) => (
          <button
            key={number}
            type="button"
            onClick={() => setShown(number)}
            aria-pressed={shown === number}
            aria-label={`Show the picture at ${momentText(at(number))}`}
            className="relative aria-pressed:z-10 aria-pressed:ring-2 aria-pressed:ring-marigold aria-pressed:ring-inset"
          >
            <Frame titleId={sheet.title_id} number={number} className="h-12 w-full object-cover" />
          </button>
        ))}
      </div>
      <div className="relative h-4" aria-hidden>
        {sheet.chapters.map((start, index) => (
          <span
            key={start}
            className="absolute top-0 border-l border-quiet pl-0.5 text-[10px] leading-4 text-quiet"
            style={{ left: `${(100 * start) / sheet.duration_s}%` }}
          >
            {index + 1}
          </span>
        ))}
      </div>
    </div>
  );
}
