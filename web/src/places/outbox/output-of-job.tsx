import { Navigate, useParams } from "react-router";

import { useOutputOfJob } from "../../api/queries";
import { Loading } from "../../ui/states";

/** On to the file that a job made; to all files where it is not known any more. */
export function OutputOfJob() {
  const { jobId } = useParams();
  const made = useOutputOfJob(Number(jobId));
  if (made.isPending) return <Loading what="the file" />;
  return <Navigate replace to={made.data ? `/outbox/${made.data.id}` : "/outbox"} />;
}
