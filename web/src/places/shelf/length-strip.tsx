import type { Schemas } from "../../api/client";
import { durationText } from "../../domain/durations";
import type { TimeScale } from "../../domain/scales";
import { roleWord } from "../../parts/roles";
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
  onPick: () => void;
}

function label(title: Outline): string {
  const parts = [`${title.number}  ${roleWord(title.role)}`, durationText(title.duration_s)];
  if (title.role === "feature" && title.chapters.length > 1) parts.push(`${title.chapters.length} chapters`);
  if (title.fault) parts.push(title.fault === "scrambled" ? "scrambled" : "damaged");
  return parts.join(" · ");
}

/** A title drawn to the Shelf's time scale, with its chapters as ticks. */
export function LengthStrip({ title, start, width, scale, large, open, picked, onOpen, onPick }: Props) {
  const look = stripLooks({ role: title.role, open, large });
  return (
    <button
      type="button"
      className={look}
      style={{ left: `${scale.at(start)}%`, width: `${scale.at(width)}%` }}
      onClick={onOpen}
      onKeyDown={(event) => {
        if (event.key === " ") {
          event.preventDefault();
          onPick();
        }
      }}
      title={`${label(title)} — ${title.reason}`}
      aria-label={`Title ${title.number}, ${label(title)}, ${picked ? "picked" : "not picked"}`}
      aria-expanded={open}
    >
      <span className="truncate px-1.5 font-medium">{label(title)}</span>
      {title.chapters.slice(1).map((at) => (
        <span
          key={at}
          aria-hidden
          className="absolute bottom-0 h-[5px] w-px bg-current opacity-70"
          style={{ left: `${(100 * at) / Math.max(width, title.duration_s)}%` }}
        />
      ))}
      {title.shares.length > 1 &&
        title.shares.slice(1).map((share) => (
          <span
            key={share.title}
            aria-hidden
            className="absolute inset-y-0 w-px bg-ink"
            style={{ left: `${(100 * share.from_s) / title.duration_s}%` }}
          />
        ))}
    </button>
  );
}
