import type { MouseEvent } from "react";

import type { Schemas } from "../../api/client";
import { durationText } from "../../domain/durations";
import type { TimeScale } from "../../domain/scales";
import { numberText, roleWord } from "../../parts/roles";
import { stripLooks } from "./strip.looks";

type Outline = Schemas["TitleOutline"];

interface Props {
  title: Outline;
  start: number;
  width: number;
  scale: TimeScale;
  large: boolean;
  open: boolean;
  picked: boolean;
  onOpen: () => void;
  /** Picks or puts back; `range` reaches from the last one that was picked. */
  onPick: (range: boolean) => void;
}

const FAULTS: Record<string, string> = { scrambled: "scrambled", part_missing: "a part is missing" };

function label(title: Outline): string {
  const what = title.part_count ? "join" : `${numberText(title)}  ${roleWord(title.role)}`;
  const parts = [what, durationText(title.duration_s)];
  if (title.part_count) parts.push(`${title.part_count} parts`);
  else if (title.role === "feature" && title.chapters.length > 1)
    parts.push(`${title.chapters.length} chapters`);
  if (title.fault) parts.push(FAULTS[title.fault] ?? "damaged");
  else if (title.gaps.length) parts.push("has holes");
  return parts.join(" · ");
}

/**
 * A title drawn to the Shelf's time scale: chapters as ticks, what it shares hatched, holes cross-hatched.
 */
export function LengthStrip({ title, start, width, scale, large, open, picked, onOpen, onPick }: Props) {
  const length = Math.max(width, title.duration_s);
  const onClick = (event: MouseEvent) =>
    event.shiftKey || event.ctrlKey || event.metaKey ? onPick(event.shiftKey) : onOpen();
  return (
    <button
      type="button"
      data-strip
      className={stripLooks({ role: title.role, open, large })}
      style={{ left: `${scale.at(start)}%`, width: `${scale.wide(width)}%` }}
      onClick={onClick}
      onKeyDown={(event) => {
        if (event.key !== " ") return;
        event.preventDefault();
        onPick(event.shiftKey);
      }}
      title={`${title.name}: ${label(title)} — ${title.reason}`}
      aria-label={`${title.part_count ? title.name : `Title ${numberText(title)}`}, ${label(title)}, ${picked ? "picked" : "not picked"}`}
      aria-expanded={open}
    >
      <Stretches stretches={title.shares} length={length} className="inset-y-0 hatch-over" />
      <Stretches stretches={title.gaps} length={length} className="inset-y-0 hatch-gap" />
      {title.chapters.slice(1).map((at) => (
        <span
          key={at}
          aria-hidden
          className="absolute bottom-0 h-[5px] w-px bg-current opacity-70"
          style={{ left: `${(100 * at) / length}%` }}
        />
      ))}
      {title.shares.length > 1 &&
        title.shares
          .slice(1)
          .map((share) => (
            <span
              key={`${share.title}-${share.from_s}`}
              aria-hidden
              className="absolute bottom-0 h-[11px] w-[2px] bg-ink"
              style={{ left: `${(100 * share.from_s) / length}%` }}
            />
          ))}
      <span className="relative truncate px-1.5 font-medium">{label(title)}</span>
      {picked && <span aria-hidden className="absolute inset-x-0 bottom-0 h-[3px] bg-marigold" />}
    </button>
  );
}

function Stretches({
  stretches,
  length,
  className,
}: {
  stretches: { from_s: number; to_s: number }[];
  length: number;
  className: string;
}) {
  return (
    <>
      {stretches.map((stretch, index) => (
        <span
          key={index}
          aria-hidden
          className={`absolute ${className}`}
          style={{
            left: `${(100 * stretch.from_s) / length}%`,
            width: `${(100 * (stretch.to_s - stretch.from_s)) / length}%`,
          }}
        />
      ))}
    </>
  );
}
