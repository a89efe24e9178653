import { Scissors, X } from "lucide-react";
import { useState } from "react";

import type { Schemas } from "../../api/client";
import { exactText } from "../../domain/durations";
import { Button } from "../../ui/button";
import { Select } from "../../ui/select";
import { Tip } from "../../ui/tip";
import {
  chaptersOf,
  type Edge,
  fromChapters,
  fromHere,
  lengthOf,
  moved,
  readMoment,
  type KeptRange,
  takeOut,
  toHere,
} from "./kept";
import { Proposals } from "./proposals";

type Sheet = Schemas["Sheet"];

interface Props {
  sheet: Sheet;
  kept: KeptRange[];
  at: number;
  onKept: (kept: KeptRange[]) => void;
}

/** What the keys of the strip do to the kept range; null for others. */
export function byKey(key: string, kept: KeptRange[], at: number, sheet: Sheet): KeptRange[] | null {
  if (key === "[") return fromHere(kept, at, sheet.duration_s);
  if (key === "]") return toHere(kept, at, sheet.duration_s);
  if (key === "x") return takeOut(kept, at, sheet);
  return null;
}

/** The acts on the kept range, and its stretches with moments that can be typed. */
export function KeptRanges({ sheet, kept, at, onKept }: Props) {
  const act = (key: string) => onKept(byKey(key, kept, at, sheet) ?? kept);
  return (
    <section aria-label="What is kept" className="mt-2">
      <div className="flex flex-wrap items-center gap-2">
        <Tip text="Key [ on the strip. What lies before is left out.">
          <Button size="small" onClick={() => act("[")}>
            From here
          </Button>
        </Tip>
        <Tip text="Key ] on the strip. What lies behind is left out.">
          <Button size="small" onClick={() => act("]")}>
            To here
          </Button>
        </Tip>
        <Tip text="Key x on the strip. A small piece is left out from here on; move its edges.">
          <Button size="small" onClick={() => act("x")}>
            <Scissors size={13} aria-hidden /> Take out a piece
          </Button>
        </Tip>
        {sheet.chapters.length > 1 && <ByChapters sheet={sheet} kept={kept} onKept={onKept} />}
        {kept.length > 0 && (
          <Button look="link" size="small" onClick={() => onKept([])}>
            Keep all of it
          </Button>
        )}
      </div>
      <Proposals sheet={sheet} kept={kept} onKept={onKept} />
      {kept.length === 0 ? (
        <p className="mt-2 text-[13px] text-quiet">
          All of it is kept. Arrow keys on the strip go by a picture, with Shift by a second, n and p by a
          scene, Page keys by a chapter.
        </p>
      ) : (
        <>
          <ol className="mt-2 max-h-56 overflow-y-auto">
            {kept.map((one, index) => (
              <StretchRow key={index} sheet={sheet} kept={kept} index={index} one={one} onKept={onKept} />
            ))}
          </ol>
          <p className="flex justify-between pt-1.5 text-[13px] text-quiet">
            <span>{kept.length > 1 ? `${kept.length} stretches, one after the other` : "Kept"}</span>
            <span className="tabular-nums">
              {exactText(lengthOf(kept))} of {exactText(sheet.duration_s)}
            </span>
          </p>
        </>
      )}
    </section>
  );
}

interface RowProps {
  sheet: Sheet;
  kept: KeptRange[];
  index: number;
  one: KeptRange;
  onKept: (kept: KeptRange[]) => void;
}

function StretchRow({ sheet, kept, index, one, onKept }: RowProps) {
  const set = (edge: Edge) => (to: number) => onKept(moved(kept, { index, edge }, to, sheet));
  return (
    <li className="flex flex-wrap items-baseline gap-x-2 gap-y-1 border-b border-hairline py-1.5">
      <span className="w-5 text-right text-quiet tabular-nums">{index + 1}</span>
      <MomentField
        label={`Stretch ${index + 1} from`}
        value={one.from_s}
        sheet={sheet}
        onSet={set("from_s")}
      />
      <span className="text-quiet">to</span>
      <MomentField
        label={`Stretch ${index + 1} to`}
        value={one.until_s}
        sheet={sheet}
        onSet={set("until_s")}
      />
      <span className="ml-auto text-quiet tabular-nums max-sm:hidden">
        {exactText(one.until_s - one.from_s)}
      </span>
      <Button
        look="quiet"
        size="icon"
        className="size-6 max-sm:ml-auto"
        aria-label={`Leave out stretch ${index + 1}`}
        disabled={kept.length === 1}
        onClick={() => onKept(kept.filter((_, at) => at !== index))}
      >
        <X size={14} />
      </Button>
    </li>
  );
}

interface FieldProps {
  label: string;
  value: number;
  sheet: Sheet;
  onSet: (to: number) => void;
}

function MomentField({ label, value, sheet, onSet }: FieldProps) {
  const [text, setText] = useState<string | null>(null);
  const [wrong, setWrong] = useState(false);
  const commit = () => {
    const read = text === null ? value : readMoment(text, sheet);
    setWrong(read === null);
    if (read === null) return;
    setText(null);
    if (Math.abs(read - value) > 0.0005) onSet(read);
  };
  return (
    <span>
      <input
        aria-label={label}
        aria-invalid={wrong}
        value={text ?? exactText(value)}
        onChange={(event) => setText(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === "Enter") commit();
          if (event.key === "Escape") {
            setText(null);
            setWrong(false);
          }
        }}
        className="w-[7.25rem] rounded-md border border-hairline bg-raised px-1.5 py-0.5 text-right tabular-nums hover:border-quiet aria-invalid:border-madder"
      />
      {wrong && (
        <span role="alert" className="mt-1 block w-[7.25rem] text-[12px] leading-4 text-madder">
          Say 1:23.5, 0:01:23:12 with pictures, or #2087.
        </span>
      )}
    </span>
  );
}

/** From one chapter to another, both of them included. */
function ByChapters({ sheet, kept, onKept }: Omit<Props, "at">) {
  const [first, last] = chaptersOf(kept, sheet);
  const choices = sheet.chapters.map((_, index) => ({ value: String(index), text: String(index + 1) }));
  return (
    <span className="flex items-center gap-1.5 text-[13px]">
      <span className="pl-1 text-quiet">Chapters</span>
      <Select
        label="First chapter to keep"
        placeholder="first"
        value={first === null ? "" : String(first)}
        choices={choices}
        onChange={(value) => onKept(fromChapters(Number(value), last, sheet))}
      />
      <span className="text-quiet">to</span>
      <Select
        label="Last chapter to keep"
        placeholder="last"
        value={last === null ? "" : String(last)}
        choices={choices}
        onChange={(value) => onKept(fromChapters(first, Number(value), sheet))}
      />
    </span>
  );
}
