import { memo } from "react";

import { Link } from "react-router";

import type { Schemas } from "../../api/client";
import { useWorklist } from "../../api/queries";
import { LongList } from "../../parts/long-list";
import { PlaceHead } from "../../parts/place-head";
import { useUndo } from "../../parts/undo";
import { Button } from "../../ui/button";
import { Empty, NotYet } from "../../ui/states";
import { EndedRow } from "./job-rows";
import { RunningCard } from "./running-card";
import { TimeAhead } from "./time-ahead";
import { WaitingList } from "./waiting-list";

type Job = Schemas["Job"];

function about(jobs: Job[]): string {
  const count = (test: (job: Job) => boolean) => jobs.filter(test).length;
  const parts = [
    `${count((job) => job.state === "running")} being made`,
    `${count((job) => job.state === "waiting")} waiting`,
    `${count((job) => job.state === "done")} done`,
  ];
  return parts.join(" · ");
}

export function WorklistPlace() {
  const worklist = useWorklist();
  const { gone } = useUndo();
  const jobs = (worklist.data?.jobs ?? []).filter((job) => !gone("job", job.id));
  const running = jobs.filter((job) => job.state === "running");
  const waiting = jobs.filter((job) => job.state === "waiting");
  const ended = jobs.filter((job) => job.state !== "running" && job.state !== "waiting");
  return (
    <div className="flex-1 pb-8">
      <PlaceHead name="Worklist" about={jobs.length ? about(jobs) : undefined} />
      <NotYet query={worklist} what="the Worklist" />
      {worklist.data && !jobs.length && (
        <Empty
          title="Nothing to do"
          action={
            <Button look="primary" asChild>
              <Link to="/bench">Go to the Bench</Link>
            </Button>
          }
        >
          What you convert on the Bench is made here, one file after the other.
        </Empty>
      )}
      <div className="px-6 max-md:px-3">
        {running.map((job) => (
          <RunningCard key={job.id} job={job} />
        ))}
        {worklist.data && worklist.data.total.count > 0 && (
          <TimeAhead worklist={worklist.data} now={worklist.dataUpdatedAt} />
        )}
        {waiting.length > 0 && <WaitingList jobs={waiting} />}
        <Ended jobs={ended} />
      </div>
    </div>
  );
}

// a live list comes anew with every change: the rows that are as they were are not drawn again
const ENDED = memo(EndedRow);

function Ended({ jobs }: { jobs: Job[] }) {
  if (!jobs.length) return null;
  return (
    <section className="mt-6" aria-label="Ended">
      <h2 className="border-b border-hairline pb-1.5 text-[16px]">Ended</h2>
      <LongList entries={jobs} label="Ended" rowPx={45} row={(job) => <ENDED job={job} />} />
    </section>
  );
}
