import { X } from "lucide-react";
import { useState } from "react";

import type { Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { Notice } from "../../ui/notice";

type Sheet = Schemas["Sheet"];

const TOLD_FIRST = 5;

/** What the last change moved besides itself, with the reason for each. */
export function Changed({ changed }: { changed: Sheet["changed"] }) {
  const [read, setRead] = useState<Sheet["changed"] | null>(null);
  const [all, setAll] = useState<Sheet["changed"] | null>(null);
  if (!changed.length || read === changed) return null;
  // what was decided before and is decided otherwise now says more than what has only come to be decided
  const told = changed
    .filter((change) => change.after !== null)
    .toSorted((one, other) => Number(one.before === null) - Number(other.before === null));
  const gone = changed.filter((change) => change.after === null).map((change) => change.label);
  return (
    <section
      aria-label="What moved"
      className="mb-3 rounded-lg border border-hairline px-3.5 py-2.5"
      aria-live="polite"
    >
      <h2 className="flex items-center justify-between text-[15px]">
        That moved {changed.length === 1 ? "one more setting" : `${changed.length} more settings`}
        <Button
          look="quiet"
          size="icon"
          className="size-5"
          aria-label="Close what moved"
          onClick={() => setRead(changed)}
        >
          <X size={13} />
        </Button>
      </h2>
      <ul className="text-[13px]">
        {(all === changed ? told : told.slice(0, TOLD_FIRST)).map((change) => (
          <li key={change.label} className="mt-1">
            <span className="text-quiet">{change.label}: </span>
            {change.before !== null && <span className="text-quiet line-through">{change.before}</span>}{" "}
            <strong>{change.after}</strong>
            {change.reason && <span className="text-quiet">, {change.reason}</span>}
          </li>
        ))}
        {all !== changed && told.length > TOLD_FIRST && (
          <li className="mt-1">
            <Button look="link" size="small" className="-ml-2" onClick={() => setAll(changed)}>
              and {told.length - TOLD_FIRST} more
            </Button>
          </li>
        )}
        {gone.length > 0 && (
          <li className="mt-1 text-quiet">Not to be decided any more: {gone.join(", ")}</li>
        )}
      </ul>
    </section>
  );
}

/** What will happen on which device, since something was set against its rules. */
export function Breaches({ sheet }: { sheet: Sheet }) {
  if (!sheet.breaches.length) return null;
  const devices = new Map<string, string[]>();
  for (const breach of sheet.breaches)
    devices.set(breach.device, [...(devices.get(breach.device) ?? []), breach.consequence]);
  return (
    <div className="mb-3">
      <Notice look="fault">
        <strong>Set against {sheet.breaches.length === 1 ? "a rule" : "rules"}.</strong> The file is made as
        you say.{" "}
        {[...devices].map(([device, said]) => `${device}: ${[...new Set(said)].join("; ")}.`).join(" ")}
      </Notice>
    </div>
  );
}

/** What the source lacks, said before anything is made of it. */
export function Missing({ sheet }: { sheet: Sheet }) {
  if (!sheet.missing.length) return null;
  return (
    <div className="mb-3">
      <Notice look="fault">
        <strong>Not all of it is there.</strong> {sheet.missing.join(" ")}
      </Notice>
    </div>
  );
}
