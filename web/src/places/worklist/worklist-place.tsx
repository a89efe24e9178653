import { memo, type ReactNode, useState } from "react";

import { Link } from "react-router";

import type { Schemas } from "../../api/client";
import { useWorklist } from "../../api/worklist";
import { GROUPINGS, type Grouping } from "../../domain/groups";
import { byPlace, isRunning } from "../../domain/jobs";
import { sizeText } from "../../domain/sizes";
import { useUndo } from "../../parts/undo";
import { Button } from "../../ui/button";
import { Segments } from "../../ui/segments";
import { Empty, NotYet } from "../../ui/states";
import { EndNear } from "./end";
import { GroupedList } from "./grouped-list";
import { Held } from "./hold";
import { OutOfHours } from "./hours";
import { EndedRow } from "./job-rows";
import { MachineSpared } from "./machine";
import { RunningCard } from "./running-card";
import { NoticeBar } from "./notice-bar";
import { ListHead } from "./list-head";
import { TimeAhead } from "./time-ahead";
import { WaitingList } from "./waiting-list";
import { WorklistHead } from "./worklist-head";

type Job = Schemas["Job"];

export function WorklistPlace() {
  const worklist = useWorklist();
  const { gone } = useUndo();
  const [by, setBy] = useState<Grouping>("in order");
  const jobs = (worklist.data?.jobs ?? []).filter((job) => !gone("job", job.id));
  const { inWork, atRest, ended } = byPlace(jobs);
  const hours = worklist.data?.hours ?? null;
  const spared = worklist.data?.machine.spared ?? null;
  const mayWork = (hours?.open ?? true) && !spared;
  const atOnce = worklist.data?.machine.at_once ?? 1;
  // what stands still in its making keeps its place
  const full = inWork.length >= atOnce;
  const stands = !mayWork || (full && !inWork.some(isRunning));
  const held = worklist.data?.held ?? false;
  const layout = jobs.length > 1 && (
    <Segments label="Lay out the list" value={by} options={GROUPINGS} onChange={setBy} />
  );
  return (
    <div className="flex-1 pb-8">
      <WorklistHead worklist={worklist.data} jobs={jobs} />
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
        {spared && inWork.length + atRest.length > 0 && <MachineSpared spared={spared} />}
        {hours && !hours.open && !held && inWork.length + atRest.length > 0 && <OutOfHours hours={hours} />}
        {held && <Held ending={inWork.some(isRunning)} />}
        {inWork.map((job) => (
          <RunningCard key={job.id} job={job} mayWork={mayWork} alone={full} />
        ))}
        {worklist.data && !held && !stands && worklist.data.total.count > 0 && (
          <TimeAhead worklist={worklist.data} now={worklist.dataUpdatedAt} />
        )}
        {atRest.length > 0 && <WaitingList jobs={atRest} by={by} tools={layout} />}
        {ended.length > 0 && <Ended jobs={ended} by={by} tools={atRest.length === 0 && layout} />}
      </div>
    </div>
  );
}

/** That there is less space than all of it takes. */
function Short({ shortage: { folder, needed_bytes, free_bytes } }: { shortage: Schemas["Shortage"] }) {
  return (
    <NoticeBar
      why={`What is to be made takes about ${sizeText(needed_bytes)}, and ${sizeText(free_bytes)} are free on the disk of “${folder}”. What does not fit waits until there is more.`}
    />
  );
}

// a live list comes anew with every change: the rows that are as they were are not drawn again
const ENDED = memo(EndedRow);

function Ended({ jobs, by, tools }: { jobs: Job[]; by: Grouping; tools: ReactNode }) {
  return (
    <section className="mt-6" aria-label="Ended">
      <ListHead name="Ended" tools={tools} />
      <GroupedList jobs={jobs} label="Ended" by={by} row={(job) => <ENDED job={job} />} />
    </section>
  );
}
