import { useState } from "react";

import { mayShow, useTelling, type Way } from "../../parts/telling";
import { Checkbox } from "../../ui/checkbox";

const NOT_HERE =
  "Browsers let a page show notifications only where its address begins with https, or where it is on this machine.";
const REFUSED =
  "This browser does not let Rheon show notifications. They can be allowed in its own settings.";

/** How this browser tells that nothing is left to make. */
export function WhenDone() {
  return (
    <div className="grid gap-2.5">
      <Choice way="sound" label="Play two tones" />
      <Choice way="notice" label="Show a notification" fault={mayShow() ? undefined : NOT_HERE} />
    </div>
  );
}

function Choice({ way, label, fault }: { way: Way; label: string; fault?: string }) {
  const { on, set } = useTelling(way);
  const [refused, setRefused] = useState(false);
  const said = fault ?? (refused ? REFUSED : undefined);
  return (
    <div>
      <label className="inline-flex items-center gap-2.5">
        <Checkbox
          label={label}
          checked={on}
          disabled={fault !== undefined}
          onChange={(wanted) => void set(wanted).then((allowed) => setRefused(!allowed))}
        />
        {label}
      </label>
      {said && (
        <p role="status" className="mt-0.5 ml-[26px] text-[13px] text-quiet">
          {said}
        </p>
      )}
    </div>
  );
}
