import { useState } from "react";

import type { Schemas } from "../../api/client";
import { exactText } from "../../domain/durations";
import { Button } from "../../ui/button";
import { Checkbox } from "../../ui/checkbox";
import { Choices } from "./decision-list";
import {
  across,
  cutsPicture,
  type Framing,
  isSame,
  NOTHING,
  seen,
  type Side,
  SIDES,
  type Sides,
  withSide,
} from "./framing";

type Sheet = Schemas["Sheet"];

const NAMES: Record<Side, string> = { top: "Above", bottom: "Below", left: "Left", right: "Right" };
/** What the frame is made of beside its edges, by decision. */
const SHAPING: Record<string, string> = {
  "picture.aspect": "Shape of the whole picture",
  "picture.rotation": "Turned",
  "picture.screen_fit": "On the screen",
};

interface Props {
  sheet: Sheet;
  framing: Framing;
  cut: Sides;
  guides: boolean;
  onGuides: (on: boolean) => void;
  onCut: (cut: Sides) => void;
  onPin: (key: string, value: string | null) => void;
  onAt: (at: number) => void;
}

/** The frame in numbers, what was found, and the picture's shape. */
export function FrameControls({ sheet, framing, cut, guides, onGuides, onCut, onPin, onAt }: Props) {
  const found = framing.found && seen(framing.found, framing.rotation);
  const often = framing.often && seen(framing.often, framing.rotation);
  const isPinned = sheet.pins.includes("picture.crop");
  return (
    <section aria-label="Frame" className="mt-3 text-[13px]">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <span className="text-quiet">Cut away</span>
        {SIDES.map((side) => (
          <SideField
            key={side}
            side={side}
            value={cut[side]}
            most={across(side, framing)}
            onSet={(to) => onCut(withSide(cut, side, to, framing))}
          />
        ))}
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        {found && !isSame(found, NOTHING) && (
          <Button size="small" disabled={isSame(cut, found)} onClick={() => onCut(found)}>
            What is black throughout
          </Button>
        )}
        {often && (
          <Button size="small" disabled={isSame(cut, often)} onClick={() => onCut(often)}>
            What is black in places
          </Button>
        )}
        <Button size="small" disabled={isSame(cut, NOTHING)} onClick={() => onCut(NOTHING)}>
          Nothing
        </Button>
        {framing.widest_at_s !== null && (
          <Button size="small" onClick={() => onAt(framing.widest_at_s ?? 0)}>
            Widest picture, at {exactText(framing.widest_at_s)}
          </Button>
        )}
        {isPinned && (
          <Button look="link" size="small" onClick={() => onPin("picture.crop", null)}>
            As proposed
          </Button>
        )}
      </div>
      <p className="mt-2 text-quiet" role="status">
        {saidOf(framing, cut)}
      </p>
      <div className="mt-2 flex flex-wrap items-center gap-x-5 gap-y-2 border-t border-hairline pt-2">
        {framing.shaping
          .filter((decision) => decision.choices.length > 0)
          .map((decision) => (
            <span key={decision.key} className="flex items-center gap-2">
              <span className="text-quiet">{SHAPING[decision.key]}</span>
              <Choices decision={decision} onPin={(value) => onPin(decision.key, value)} />
            </span>
          ))}
        <label className="flex items-center gap-2">
          <Checkbox checked={guides} label="Circle and squares" onChange={onGuides} />
          Circle and squares
        </label>
      </div>
    </section>
  );
}

function saidOf(framing: Framing, cut: Sides): string {
  const left = `${framing.width - cut.left - cut.right} × ${framing.height - cut.top - cut.bottom} of ${framing.width} × ${framing.height} stored pixels stay.`;
  if (framing.found === null) return `${left} Nobody has looked for black borders yet.`;
  if (cutsPicture(cut, framing))
    return `${left} This cuts into the picture: compare it where the picture is widest.`;
  if (framing.often)
    return `${left} The picture changes its shape: what is black in places is picture in others.`;
  return left;
}

interface FieldProps {
  side: Side;
  value: number;
  most: number;
  onSet: (to: number) => void;
}

/** How much goes at one side; Enter or leaving the field sets it. */
function SideField({ side, value, most, onSet }: FieldProps) {
  const [text, setText] = useState<string | null>(null);
  const fits = text === null || (/^\d{1,4}$/.test(text.trim()) && Number(text) < most);
  const commit = () => {
    if (text !== null && fits && Number(text) !== value) onSet(Number(text));
    setText(null);
  };
  return (
    <label className="flex items-center gap-1.5">
      <span className="text-quiet">{NAMES[side].toLowerCase()}</span>
      <input
        aria-label={`Cut away ${NAMES[side].toLowerCase()}, in stored pixels`}
        inputMode="numeric"
        value={text ?? `${value}`}
        aria-invalid={!fits}
        onChange={(event) => setText(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === "Enter") commit();
          if (event.key === "Escape") setText(null);
        }}
        className="h-7 w-14 rounded-md border border-hairline bg-raised px-2 text-right tabular-nums hover:border-quiet aria-invalid:border-madder"
      />
    </label>
  );
}
