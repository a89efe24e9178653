import { memo, type ReactNode } from "react";

import type { Schemas } from "../../api/client";
import { spanText } from "../../domain/durations";
import { grouped, type Grouping } from "../../domain/groups";
import { sizeText } from "../../domain/sizes";
import { DROP_MARKS, isBelow, RowHandle } from "../../parts/row-handle";
import { Checkbox } from "../../ui/checkbox";
import { ChosenBar } from "./chosen-bar";
import { GroupedList } from "./grouped-list";
import { JobName } from "./job-name";
import { ListHead } from "./list-head";
import { PlanOfJob } from "./plan-of-job";
import { RemoveJob } from "./remove-job";
import { type Acts, useOrder } from "./use-order";

type Job = Schemas["Job"];

/** What waits, in its order, which is changed by dragging, by keys, or for several rows at once. */
export function WaitingList({ jobs, by, tools }: { jobs: Job[]; by: Grouping; tools: ReactNode }) {
  const shown = by === "in order" ? jobs : grouped(jobs, by).flatMap((group) => group.jobs);
  const { chosen, markOf, acts, move, clear, error } = useOrder(jobs, shown);
  const choosing = (some: Job[], label: string) => (
    <Checkbox
      checked={some.every(({ id }) => chosen.has(id))}
      onChange={(on) => acts.chooseAll(some, on)}
      label={label}
    />
  );
  const meant = jobs.filter(({ id }) => chosen.has(id));
  return (
    <section className="mt-6" aria-label="Waiting">
      <ListHead
        name="Waiting"
        lead={jobs.length > 1 && choosing(jobs, "Choose all that wait")}
        tools={tools}
      />
      {error && (
        <p role="alert" className="py-1.5 text-madder">
          {error.message}
        </p>
      )}
      <GroupedList
        jobs={jobs}
        label="Waiting"
        by={by}
        lead={(group) => choosing(group.jobs, `Choose all of ${group.name}`)}
        row={(job) => (
          <WAITING
            job={job}
            chosen={chosen.has(job.id)}
            mark={markOf(job.id)}
            acts={acts}
            fixed={by !== "in order"}
          />
        )}
      />
      {meant.length > 0 && (
        <ChosenBar
          jobs={meant}
          onClear={clear}
          onMove={(key) => move(new Set(meant.map(({ id }) => id)), key)}
        />
      )}
    </section>
  );
}

interface RowProps {
  job: Job;
  chosen: boolean;
  mark: keyof typeof DROP_MARKS;
  acts: Acts;
  /** It stands among its group, not at its place in the order. */
  fixed: boolean;
}

// a live list comes anew with every change: the rows that are as they were are not drawn again
const WAITING = memo(WaitingRow);

function WaitingRow({ job, chosen, mark, acts, fixed }: RowProps) {
  return (
    <div
      className={`grid grid-cols-[20px_24px_minmax(0,1.3fr)_minmax(0,1.6fr)_84px_84px_196px] items-center gap-x-3 border-b border-hairline py-2.5 max-lg:grid-cols-[20px_24px_minmax(0,1fr)_auto] ${chosen ? "bg-sand" : ""} ${DROP_MARKS[mark]}`}
      onDragOver={(event) => {
        event.preventDefault();
        acts.aim({ id: job.id, after: isBelow(event) });
      }}
      onDrop={(event) => {
        event.preventDefault();
        acts.drop();
      }}
    >
      <Checkbox
        checked={chosen}
        onChange={(on, range) => acts.choose(job.id, on, range)}
        label={`Choose ${job.title_name}, ${job.device_names.join(", ")}`}
      />
      {fixed ? (
        <span />
      ) : (
        <RowHandle
          name={job.title_name}
          hint="Drag it, or move it by the arrow keys; Home makes it next, End last"
          label={`Move ${job.title_name}, ${job.device_names.join(", ")}: arrow keys, Home for next, End for last`}
          onDrag={(begins) => acts.drag(begins ? job.id : null)}
          onKey={(key) => acts.key(job.id, key)}
        />
      )}
      <JobName job={job} />
      <span className="truncate text-[13px] text-quiet max-lg:hidden">
        {job.short_bytes > 0 && (
          <strong className="text-madder">Waits for {sizeText(job.short_bytes)} more space · </strong>
        )}
        {job.state === "paused" && <strong className="text-ink">Paused · </strong>}
        {job.summary}
      </span>
      <span className="text-right max-lg:hidden">{sizeText(job.expected_bytes)}</span>
      <span className="text-right max-lg:hidden">{spanText(job.expected_s)}</span>
      <span className="flex justify-end gap-4">
        <PlanOfJob job={job} />
        <RemoveJob job={job} />
      </span>
    </div>
  );
}
