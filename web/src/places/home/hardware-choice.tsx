import { useChangeHardware, useHardware } from "../../api/home";
import type { Schemas } from "../../api/client";
import { codecsText, costText, whyNot } from "../../domain/hardware";
import { Button } from "../../ui/button";
import { Checkbox } from "../../ui/checkbox";
import { NotYet } from "../../ui/states";

type Hardware = Schemas["Hardware"];

/** What of the machine's graphics chip can be used, whether it is, and what that costs. */
export function HardwareChoice() {
  const hardware = useHardware();
  const change = useChangeHardware();
  if (!hardware.data) return <NotYet query={hardware} what="what was tried" />;
  const { never, tried, families } = hardware.data;
  if (never)
    return <p className="text-quiet">The setting “hardware” is none: no graphics chip is looked for.</p>;
  if (!tried)
    return (
      <p role="status" className="text-quiet">
        What this machine has is being tried …
      </p>
    );
  const works = families.some(({ codecs }) => codecs.length > 0);
  return (
    <div className="grid gap-3">
      {works ? (
        <Preference
          hardware={hardware.data}
          onChange={(prefers_speed) => change.mutate({ prefers_speed, again: false })}
        />
      ) : (
        <p>None was found that works. Everything is made by software, as well as it can be.</p>
      )}
      <FamilyList families={families} />
      <div className="flex items-center gap-3">
        <Button onClick={() => change.mutate({ again: true })} disabled={change.isPending}>
          Try again
        </Button>
        {change.isError && (
          <p role="alert" className="text-[13px] text-madder">
            {change.error.message}
          </p>
        )}
      </div>
    </div>
  );
}

interface PreferenceProps {
  hardware: Hardware;
  onChange: (preferred: boolean) => void;
}

function Preference({ hardware: { prefers_speed, measuring }, onChange }: PreferenceProps) {
  return (
    <div>
      <label className="inline-flex items-center gap-2.5 font-semibold">
        <Checkbox label="Prefer speed" checked={prefers_speed} onChange={onChange} />
        Prefer speed
      </label>
      <p className="mt-0.5 ml-[26px] text-[13px] text-quiet">
        The graphics chip makes whatever it can. Files become larger for the same picture; one that fails is
        made anew by software.
      </p>
      {prefers_speed && measuring && (
        <p role="status" className="mt-1 ml-[26px] text-[13px] text-quiet">
          How much larger is measured when nothing else is to be read.
        </p>
      )}
    </div>
  );
}

function FamilyList({ families }: { families: Hardware["families"] }) {
  return (
    <ul
      aria-label="What was tried"
      className="divide-y divide-hairline overflow-hidden rounded-card border border-hairline bg-raised"
    >
      {families.map((family) => (
        <li key={family.label} className="px-3 py-2">
          <span className="font-semibold">{family.label}</span>
          <span className="text-quiet"> · {family.about}</span>
          {family.codecs.length > 0 && <span className="block">Makes {codecsText(family.codecs)}.</span>}
          {family.codecs.map((codec) => (
            <span key={codec.codec} className="block text-[13px] text-quiet">
              {costText(codec)}
            </span>
          ))}
          {whyNot(family).map((why) => (
            <span key={why} className="block text-[13px] [overflow-wrap:anywhere] text-quiet">
              {why}
            </span>
          ))}
        </li>
      ))}
    </ul>
  );
}
