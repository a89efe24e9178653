import type { ReactNode } from "react";

import type { Schemas } from "../../api/client";
import { spanText } from "../../domain/durations";
import { type Group, grouped, type Grouping } from "../../domain/groups";
import { sizeText } from "../../domain/sizes";
import { LongList } from "../../parts/long-list";

type Job = Schemas["Job"];

type Entry = { id: number; group: Group<Job>; job?: undefined } | { id: number; job: Job };

interface Props {
  jobs: Job[];
  label: string;
  by: Grouping;
  row: (job: Job) => ReactNode;
  /** What stands before a group's name. */
  lead?: (group: Group<Job>) => ReactNode;
}

/** Jobs as they come, or under headings. */
export function GroupedList({ jobs, label, by, row, lead }: Props) {
  const entries: Entry[] =
    by === "in order"
      ? jobs.map((job) => ({ id: job.id, job }))
      : grouped(jobs, by).flatMap((group, at) => [
          // no job has such a number
          { id: -1 - at, group },
          ...group.jobs.map((job) => ({ id: job.id, job })),
        ]);
  return (
    <LongList
      entries={entries}
      label={label}
      rowPx={45}
      row={(entry) =>
        entry.job ? row(entry.job) : <Heading group={entry.group} lead={lead?.(entry.group)} />
      }
    />
  );
}

function Heading({ group: { name, jobs }, lead }: { group: Group<Job>; lead: ReactNode }) {
  const sum = (of: (job: Job) => number) => jobs.reduce((whole, job) => whole + of(job), 0);
  const bytes = sum((job) => (job.state === "done" ? job.written_bytes : job.expected_bytes));
  const seconds = sum((job) => job.made_in_s ?? job.expected_s);
  return (
    <div className="flex items-center gap-3 border-b border-hairline bg-sunk/60 py-1.5">
      {lead}
      <h3 className="min-w-0 truncate text-[14px] font-semibold">{name}</h3>
      <span className="ml-auto shrink-0 text-[13px] text-quiet">
        {jobs.length === 1 ? "1 job" : `${jobs.length} jobs`} · {sizeText(bytes)} · {spanText(seconds)}
      </span>
    </div>
  );
}
