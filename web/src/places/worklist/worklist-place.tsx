import { memo, useState } from "react";

import { Link } from "react-router";

import type { Schemas } from "../../api/client";
import { useWorklist } from "../../api/worklist";
import { GROUPINGS, type Grouping } from "../../domain/groups";
import { byPlace } from "../../domain/jobs";
import { sizeText } from "../../domain/sizes";
import { PlaceHead } from "../../parts/place-head";
import { useUndo } from "../../parts/undo";
import { Button } from "../../ui/button";
import { Segments } from "../../ui/segments";
import { Empty, NotYet } from "../../ui/states";
import { EndChoice, EndNear } from "./end";
import { GroupedList } from "./grouped-list";
import { Held, HoldBack } from "./hold";
import { HoursButton, OutOfHours } from "./hours";
import { EndedRow } from "./job-rows";
import { RunningCard } from "./running-card";
import { Stands } from "./stands";
import { TimeAhead } from "./time-ahead";
import { WaitingList } from "./waiting-list";

type Job = Schemas["Job"];

function about(jobs: Job[]): string {
  const count = (state: Job["state"]) => jobs.filter((job) => job.state === state).length;
  const parts = [`${count("running")} being made`, `${count("waiting")} waiting`, `${count("done")} done`];
  if (count("paused")) parts.splice(1, 0, `${count("paused")} paused`);
  return parts.join(" · ");
}

const isRunning = (job: Job) => job.state === "running";

export function WorklistPlace() {
  const worklist = useWorklist();
  const { gone } = useUndo();
  const [by, setBy] = useState<Grouping>("in order");
  const jobs = (worklist.data?.jobs ?? []).filter((job) => !gone("job", job.id));
  const { inWork, atRest, ended } = byPlace(jobs);
  const hours = worklist.data?.hours ?? null;
  const inHours = hours?.open ?? true;
  // what stands still in its making keeps the worker
  const stands = !inHours || (inWork.length > 0 && !inWork.some(isRunning));
  const held = worklist.data?.held ?? false;
  return (
    <div className="flex-1 pb-8">
      <PlaceHead name="Worklist" about={jobs.length ? about(jobs) : undefined}>
        {jobs.length > 1 && (
          <Segments label="Lay out the list" value={by} options={GROUPINGS} onChange={setBy} />
        )}
        {worklist.data && worklist.data.end.choices.length > 0 && inWork.length + atRest.length > 0 && (
          <EndChoice end={worklist.data.end} />
        )}
        {worklist.data && (jobs.length > 0 || hours) && <HoursButton hours={hours} />}
        {!held && inWork.length + atRest.length > 0 && (
          <HoldBack mayEnd={inWork.some(isRunning) && atRest.length > 0} />
        )}
      </PlaceHead>
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
        {worklist.data && <EndNear end={worklist.data.end} />}
        {worklist.data?.shortages.map((shortage) => (
          <Short key={shortage.folder} shortage={shortage} />
        ))}
        {hours && !hours.open && !held && inWork.length + atRest.length > 0 && <OutOfHours hours={hours} />}
        {held && <Held ending={inWork.some(isRunning)} />}
        {inWork.map((job) => (
          <RunningCard key={job.id} job={job} inHours={inHours} />
        ))}
        {worklist.data && !held && !stands && worklist.data.total.count > 0 && (
          <TimeAhead worklist={worklist.data} now={worklist.dataUpdatedAt} />
        )}
        {atRest.length > 0 && <WaitingList jobs={atRest} by={by} />}
        <Ended jobs={ended} by={by} />
      </div>
    </div>
  );
}

/** That there is less space than all of it takes. */
function Short({ shortage: { folder, needed_bytes, free_bytes } }: { shortage: Schemas["Shortage"] }) {
  return (
    <Stands
      why={`What is to be made takes about ${sizeText(needed_bytes)}, and ${sizeText(free_bytes)} are free on the disk of “${folder}”. What does not fit waits until there is more.`}
    />
  );
}

// a live list comes anew with every change: the rows that are as they were are not drawn again
const ENDED = memo(EndedRow);

function Ended({ jobs, by }: { jobs: Job[]; by: Grouping }) {
  if (!jobs.length) return null;
  return (
    <section className="mt-6" aria-label="Ended">
      <h2 className="border-b border-hairline pb-1.5 text-[16px]">Ended</h2>
      <GroupedList jobs={jobs} label="Ended" by={by} row={(job) => <ENDED job={job} />} />
    </section>
  );
}
