import { Link } from "react-router";

import type { Schemas } from "../../api/client";

/** Opens the plan of a job that nobody is at, to be changed for it. */
export function PlanOfJob({ job }: { job: Schemas["Job"] }) {
  if (job.title_id === null || job.target_id === null) return null;
  return (
    <Link
      to={`/bench/${job.title_id}/${job.target_id}?job=${job.id}`}
      aria-label={`Change the plan of ${job.title_name}, ${job.device_names.join(", ")}`}
      className="font-semibold text-river hover:underline"
    >
      Plan
    </Link>
  );
}
