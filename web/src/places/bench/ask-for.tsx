import { useState } from "react";

import { useAskForFidelity } from "../../api/trade-off";
import type { Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { Select } from "../../ui/select";

type Sheet = Schemas["Sheet"];
type Kind = "size" | "fidelity";

interface Props {
  sheet: Sheet;
  known: Schemas["TradeOff"] | undefined;
  onSize: (megabytes: string) => void;
}

/** A size or a fidelity that somebody wants; the rate is found for it. */
export function AskFor({ sheet, known, onSize }: Props) {
  const [kind, setKind] = useState<Kind>("size");
  const [text, setText] = useState("");
  const ask = useAskForFidelity(sheet.title_id, sheet.target_id);
  const canAsk = (known?.scores.length ?? 0) > 1;
  const unit = kind === "size" ? "MB" : (known?.unit ?? "");
  const value = Number(text.replace(",", "."));
  const fits = text.trim() !== "" && value > 0 && (kind === "size" ? value < 1e6 : value <= 100);
  const choices = [
    { value: "size" as const, text: "a size" },
    ...(canAsk ? [{ value: "fidelity" as const, text: `a fidelity (${known?.measure})` }] : []),
  ];
  return (
    <form
      className="mt-2 flex flex-wrap items-center gap-2 text-[13px]"
      onSubmit={(event) => {
        event.preventDefault();
        if (!fits) return;
        if (kind === "size") onSize(text.trim().replace(",", "."));
        else ask.mutate(value);
      }}
    >
      <span className="text-quiet">Ask for</span>
      <Select label="Ask for" value={kind} choices={choices} onChange={setKind} />
      <label className="flex items-center gap-1.5">
        <input
          aria-label={kind === "size" ? "Size in MB" : "Fidelity"}
          inputMode="decimal"
          value={text}
          aria-invalid={text !== "" && !fits}
          onChange={(event) => setText(event.target.value)}
          className="h-7 w-20 rounded-md border border-hairline bg-raised px-2 text-right tabular-nums hover:border-quiet aria-invalid:border-madder"
        />
        {unit}
      </label>
      <Button size="small" type="submit" disabled={!fits || ask.isPending}>
        Find the rate
      </Button>
      {ask.isError && (
        <span role="alert" className="text-madder">
          {ask.error.message}
        </span>
      )}
    </form>
  );
}
