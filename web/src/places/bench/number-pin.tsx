import { Pencil } from "lucide-react";
import { useState } from "react";

import type { Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { Popover } from "../../ui/popover";
import { Select } from "../../ui/select";

type Decision = Schemas["Decision"];
type Range = Schemas["Range"];

const numberText = (value: number) => value.toLocaleString("en-GB", { maximumFractionDigits: 1 });

/** What a pin of this range now says, without what goes before the number. */
function typedNow(decision: Decision, range: Range): string {
  if (!range.before) return /^[\d.+-]+$/.test(decision.value) ? decision.value : "";
  return decision.value.startsWith(range.before) ? decision.value.slice(range.before.length) : "";
}

/** Sets a decision to a number: of one kind, or of several (a quality, a rate, a size). */
export function NumberPin({ decision, onPin }: { decision: Decision; onPin: (value: string) => void }) {
  const [open, setOpen] = useState(false);
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label={`Set ${decision.label}`}
      trigger={
        <Button look="quiet" size="icon" className="size-5" aria-label={`Type a value for ${decision.label}`}>
          <Pencil size={12} />
        </Button>
      }
    >
      <Form decision={decision} onPin={(value) => (setOpen(false), onPin(value))} />
    </Popover>
  );
}

function Form({ decision, onPin }: { decision: Decision; onPin: (value: string) => void }) {
  const kinds = decision.ranges;
  const now = kinds.find((range) => range.before && decision.value.startsWith(range.before)) ?? kinds[0];
  const [unit, setUnit] = useState(now?.unit ?? "");
  const range = kinds.find((entry) => entry.unit === unit) ?? kinds[0];
  const [text, setText] = useState(range ? typedNow(decision, range) : "");
  if (!range) return null;
  const value = Number(text);
  const fits = text.trim() !== "" && value >= range.low && value <= range.high;
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (fits) onPin(`${range.before}${text.trim()}`);
      }}
    >
      <label className="flex items-center gap-2">
        <span className="sr-only">{decision.label}</span>
        <input
          autoFocus
          inputMode="decimal"
          value={text}
          onChange={(event) => setText(event.target.value)}
          aria-invalid={text !== "" && !fits}
          className="h-8 min-w-0 flex-1 rounded-lg border border-hairline bg-raised px-2.5 text-right aria-invalid:border-madder"
        />
        {kinds.length === 1 && <span className="text-quiet">{range.unit}</span>}
      </label>
      {kinds.length > 1 && (
        <div className="mt-2">
          <Select
            label="Kind"
            value={unit}
            choices={kinds.map((entry) => ({ value: entry.unit, text: entry.unit }))}
            onChange={setUnit}
          />
        </div>
      )}
      <p className="mt-1.5 mb-2 text-[12.5px] text-quiet">
        {numberText(range.low)} to {numberText(range.high)}
      </p>
      <Button look="primary" size="small" type="submit" disabled={!fits}>
        Set it
      </Button>
    </form>
  );
}
