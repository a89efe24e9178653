/** How a list of jobs is laid out: as it is made, or put together by what its jobs have in common. */
export const GROUPINGS = ["in order", "by source", "by device", "by evening"] as const;

export type Grouping = (typeof GROUPINGS)[number];

interface Job {
  title_name: string;
  source_name: string | null;
  device_names: string[];
  added: string;
}

export interface Group<J> {
  name: string;
  jobs: J[];
}

const EVENING_BEGINS_H = 17;
const NIGHT_ENDS_H = 5;

/** `Evening of Sat 28 Nov` for what was added from five in the afternoon to five in the morning, else the day. */
function eveningOf(added: string): string {
  const at = new Date(added);
  const night = at.getHours() < NIGHT_ENDS_H;
  if (night) at.setDate(at.getDate() - 1);
  const day = at.toLocaleDateString(undefined, { weekday: "short", day: "numeric", month: "short" });
  return night || at.getHours() >= EVENING_BEGINS_H ? `Evening of ${day}` : day;
}

const NAMES: Record<Exclude<Grouping, "in order">, (job: Job) => string> = {
  "by source": (job) => job.source_name ?? job.title_name,
  "by device": (job) => job.device_names.join(" and "),
  "by evening": (job) => eveningOf(job.added),
};

/** Groups in the order of their first jobs; the jobs of each keep theirs. */
export function grouped<J extends Job>(jobs: readonly J[], by: Exclude<Grouping, "in order">): Group<J>[] {
  const found = new Map<string, J[]>();
  for (const job of jobs) {
    const name = NAMES[by](job);
    const known = found.get(name);
    if (known) known.push(job);
    else found.set(name, [job]);
  }
  return [...found].map(([name, members]) => ({ name, jobs: members }));
}
