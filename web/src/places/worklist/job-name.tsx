import type { Schemas } from "../../api/client";

/** Which title a job makes, as what, and for whom. */
export function JobName({ job }: { job: Schemas["Job"] }) {
  return (
    <span className="line-clamp-2 min-w-0 max-lg:line-clamp-4" title={job.title_name}>
      <span className="font-semibold">{job.title_name}</span>{" "}
      {job.kind === "sample" && <span className="font-semibold text-river">· a minute to try </span>}
      <span className="text-quiet">· {job.device_names.join(", ")}</span>
    </span>
  );
}
