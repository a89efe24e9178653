import { useState } from "react";

import { useAskFor } from "../../api/trade-off";
import type { Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { Select } from "../../ui/select";

type Sheet = Schemas["Sheet"];
type Kind = "size" | "fidelity" | "time";

const KINDS = {
  size: { label: "Size in MB", most: 1e6, unit: "MB", found: "Find the rate" },
  fidelity: { label: "Fidelity", most: 100, unit: "", found: "Find the rate" },
  time: { label: "Time in minutes", most: 1e5, unit: "min", found: "Find the preset" },
} as const;

interface Props {
  sheet: Sheet;
  known: Schemas["TradeOff"] | undefined;
  onSize: (megabytes: string) => void;
}

/** A size, a fidelity or a time that somebody wants; the rate or the preset is found for it. */
export function AskFor({ sheet, known, onSize }: Props) {
  const [kind, setKind] = useState<Kind>("size");
  const [text, setText] = useState("");
  const ask = useAskFor(sheet.title_id, sheet.target_id);
  const canAsk = (known?.scores.length ?? 0) > 1;
  const { label, most, unit, found } = KINDS[kind];
  const value = Number(text.replace(",", "."));
  const fits = text.trim() !== "" && value > 0 && value <= most;
  const choices = [
    { value: "size" as const, text: "a size" },
    { value: "time" as const, text: "a time to make it" },
    ...(canAsk ? [{ value: "fidelity" as const, text: `a fidelity (${known?.measure})` }] : []),
  ];
  return (
    <form
      className="mt-2 flex flex-wrap items-center gap-2 text-[13px]"
      onSubmit={(event) => {
        event.preventDefault();
        if (!fits) return;
        if (kind === "size") onSize(text.trim().replace(",", "."));
        else ask.mutate(kind === "time" ? { kind, minutes: value } : { kind, score: value });
      }}
    >
      <span className="text-quiet">Ask for</span>
      <Select label="Ask for" value={kind} choices={choices} onChange={setKind} />
      <label className="flex items-center gap-1.5">
        <input
          aria-label={label}
          inputMode="decimal"
          value={text}
          aria-invalid={text !== "" && !fits}
          onChange={(event) => setText(event.target.value)}
          className="h-7 w-20 rounded-md border border-hairline bg-raised px-2 text-right tabular-nums hover:border-quiet aria-invalid:border-madder"
        />
        {kind === "fidelity" ? known?.unit : unit}
      </label>
      <Button size="small" type="submit" disabled={!fits || ask.isPending}>
        {found}
      </Button>
      {ask.isError && (
        <span role="alert" className="text-madder">
          {ask.error.message}
        </span>
      )}
    </form>
  );
}
