import { Link } from "react-router";

import type { Schemas } from "../../api/client";
import { byPlace, isRunning } from "../../domain/jobs";
import { PlaceHead } from "../../parts/place-head";
import { Button } from "../../ui/button";
import { EndChoice } from "./end";
import { HoldBack } from "./hold";
import { HoursButton } from "./hours";
import { MachineButton } from "./machine";

type Job = Schemas["Job"];

function about(jobs: Job[]): string {
  const count = (state: Job["state"]) => jobs.filter((job) => job.state === state).length;
  const parts = [`${count("running")} being made`, `${count("waiting")} waiting`, `${count("done")} done`];
  if (count("paused")) parts.splice(1, 0, `${count("paused")} paused`);
  return parts.join(" · ");
}

/** What is on the list, and when it is made. */
export function WorklistHead({ worklist, jobs }: { worklist: Schemas["Worklist"] | undefined; jobs: Job[] }) {
  const { inWork, atRest } = byPlace(jobs);
  const some = inWork.length + atRest.length > 0;
  return (
    <PlaceHead name="Worklist" about={jobs.length ? about(jobs) : undefined}>
      <Button look="link" size="text" asChild>
        <Link to="/worklist/history">History</Link>
      </Button>
      {worklist && some && worklist.end.choices.length > 0 && <EndChoice end={worklist.end} />}
      {worklist && (jobs.length > 0 || worklist.hours) && <HoursButton hours={worklist.hours} />}
      {worklist && jobs.length > 0 && <MachineButton machine={worklist.machine} />}
      {worklist && some && !worklist.held && (
        <HoldBack ending={atRest.length > 0 ? inWork.filter(isRunning).length : 0} />
      )}
    </PlaceHead>
  );
}
