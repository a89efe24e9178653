import { BadgeCheck, Check, CircleDashed, CircleHelp } from "lucide-react";

import type { Schemas } from "../api/client";

type Sure = Schemas["Sure"];

const SURE: Record<Sure, { icon: typeof Check; text: string; tone: string }> = {
  proven: { icon: BadgeCheck, text: "proven", tone: "text-moss" },
  known: { icon: Check, text: "known", tone: "text-moss" },
  supposed: { icon: CircleDashed, text: "supposed", tone: "text-quiet" },
  doubtful: { icon: CircleHelp, text: "not sure", tone: "text-madder" },
};

const FROM_SUREST: readonly Sure[] = ["proven", "known", "supposed", "doubtful"];

/** How sure a line is, as a sign with its word for those who hear it. */
export function SureMark({ sure }: { sure: Sure }) {
  const { icon: Icon, text, tone } = SURE[sure];
  return <Icon size={14} className={`mt-[3px] shrink-0 ${tone}`} role="img" aria-label={text} />;
}

/** What the signs mean; only those that are there. */
export function SureLegend({ sures }: { sures: readonly Sure[] }) {
  const used = FROM_SUREST.filter((sure) => sures.includes(sure));
  return (
    <p className="mt-3 flex flex-wrap gap-x-4 gap-y-1 text-[12px] text-quiet" aria-hidden>
      {used.map((sure) => (
        <span key={sure} className="flex gap-1">
          <SureMark sure={sure} /> {MEANS[sure]}
        </span>
      ))}
    </p>
  );
}

const MEANS: Record<Sure, string> = {
  proven: "seen on this device",
  known: "sure",
  supposed: "usual for its kind",
  doubtful: "not sure, so not used",
};
