import { Link } from "react-router";

import type { Schemas } from "../../api/client";
import { useChangeJobs } from "../../api/worklist";
import { spanText } from "../../domain/durations";
import { sizeText } from "../../domain/sizes";
import { Button } from "../../ui/button";
import { EndMark } from "./end-mark";
import { JobName } from "./job-name";
import { PlanOfJob } from "./plan-of-job";
import { RemoveJob } from "./remove-job";

type Job = Schemas["Job"];

const GRID =
  "grid grid-cols-[20px_minmax(0,1.3fr)_minmax(0,1.6fr)_84px_84px_196px] items-center gap-x-3 border-b border-hairline py-2.5 max-lg:grid-cols-[20px_minmax(0,1fr)_auto]";

export function EndedRow({ job }: { job: Job }) {
  const done = job.state === "done";
  return (
    <div className={GRID}>
      <EndMark state={job.state} />
      <JobName job={job} />
      {done ? (
        <span
          className={`text-[13px] text-quiet ${job.note ? "max-lg:col-span-2 max-lg:col-start-2 max-lg:row-start-2" : "truncate max-lg:hidden"}`}
        >
          {job.note || `expected ${sizeText(job.expected_bytes)}, ${spanText(job.expected_s)}`}
        </span>
      ) : (
        <span
          className={`text-[13px] max-lg:col-span-2 max-lg:col-start-2 max-lg:row-start-2 ${job.state === "stopped" ? "text-quiet" : "text-madder"}`}
        >
          {job.state === "stopped" ? "Stopped. Nothing was kept." : job.error_message}
        </span>
      )}
      <span className="text-right max-lg:hidden">{done ? sizeText(job.written_bytes) : ""}</span>
      <span className="text-right max-lg:hidden">
        {done && job.made_in_s !== null ? spanText(job.made_in_s) : ""}
      </span>
      <span className="flex justify-end gap-4">
        {done ? (
          <Link to={`/outbox/of-job/${job.id}`} className="font-semibold text-river hover:underline">
            Outbox →
          </Link>
        ) : (
          <>
            <AgainButton job={job} />
            <PlanOfJob job={job} />
          </>
        )}
        <RemoveJob job={job} />
      </span>
    </div>
  );
}

/** Tries again; where only a loss stands against the file, asks for nothing but a yes to it. */
function AgainButton({ job }: { job: Job }) {
  const act = useChangeJobs();
  const label = job.may_accept_loss ? "Keep what is there" : "Try again";
  const verb = job.may_accept_loss ? "accept_loss" : "retry";
  return (
    <Button
      look="link"
      size="text"
      onClick={() => act.mutate({ ids: [job.id], verb })}
      aria-label={`${label}: ${job.title_name}`}
    >
      {label}
    </Button>
  );
}
