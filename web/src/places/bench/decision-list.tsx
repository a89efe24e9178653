import { Pin } from "lucide-react";
import { useState } from "react";

import type { Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { Select } from "../../ui/select";
import { Tip } from "../../ui/tip";

type Decision = Schemas["Decision"];

interface Props {
  sheet: Schemas["Sheet"];
  onPin: (key: string, value: string | null) => void;
}

const GROUPS = [
  ["picture", "Picture"],
  ["sound", "Sound"],
  ["words", "Words"],
  ["file", "File"],
] as const;

export function DecisionList({ sheet, onPin }: Props) {
  return GROUPS.map(([group, heading]) => {
    const decisions = sheet.decisions.filter((decision) => decision.group === group);
    if (!decisions.length) return null;
    return (
      <section key={group} className="mb-4" aria-label={heading}>
        <h2 className="border-b border-hairline pb-1 text-[15px]">{heading}</h2>
        {decisions.map((decision) => (
          <DecisionRow key={decision.key} decision={decision} onPin={(value) => onPin(decision.key, value)} />
        ))}
      </section>
    );
  });
}

function DecisionRow({ decision, onPin }: { decision: Decision; onPin: (value: string | null) => void }) {
  return (
    <div className="grid grid-cols-[84px_minmax(0,1fr)_minmax(0,1.15fr)_24px] items-start gap-x-3 border-b border-hairline py-1.5 max-md:grid-cols-[84px_minmax(0,1fr)_24px]">
      <span className="text-quiet">{decision.label}</span>
      <span className="min-w-0 font-semibold break-words">
        <Value decision={decision} onPin={onPin} />
      </span>
      <span className="text-[12.5px] leading-snug text-quiet max-md:col-start-2 max-md:row-start-2">{decision.reason}</span>
      <PinMark decision={decision} onPin={onPin} />
    </div>
  );
}

function Value({ decision, onPin }: { decision: Decision; onPin: (value: string | null) => void }) {
  if (decision.key === "file.name") return <NameField decision={decision} onPin={onPin} />;
  if (decision.choices.length > 1) {
    const shown = decision.key === "picture.codec" ? decision.choices.map((choice) => (choice.value === decision.value ? { ...choice, text: decision.text } : choice)) : decision.choices;
    return <Select label={decision.label} value={decision.value} choices={shown} onChange={onPin} />;
  }
  return decision.text;
}

function NameField({ decision, onPin }: { decision: Decision; onPin: (value: string | null) => void }) {
  const [text, setText] = useState<string | null>(null);
  const commit = () => {
    if (text !== null && text.trim() && text !== decision.value) onPin(text);
    setText(null);
  };
  const extension = decision.text.slice(decision.text.lastIndexOf("."));
  return (
    <span className="flex items-center gap-0.5">
      <input
        aria-label="File name"
        value={text ?? decision.value}
        onChange={(event) => setText(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === "Enter") event.currentTarget.blur();
          if (event.key === "Escape") setText(null);
        }}
        className="min-w-0 flex-1 rounded-md border border-hairline bg-raised px-2 py-0.5 font-semibold hover:border-quiet"
      />
      <span className="text-quiet">{extension}</span>
    </span>
  );
}

function PinMark({ decision, onPin }: { decision: Decision; onPin: (value: string | null) => void }) {
  if (!decision.pinned) return <span aria-hidden />;
  return (
    <Tip text="Set by hand. Let Rheon choose again.">
      <Button look="quiet" size="icon" className="size-6" aria-label={`${decision.label}: let Rheon choose again`} onClick={() => onPin(null)}>
        <Pin size={14} className="fill-marigold text-marigold" />
      </Button>
    </Tip>
  );
}
