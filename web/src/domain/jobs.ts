interface Job {
  state: string;
  in_work: boolean;
}

/** Whether nobody has begun a job: it waits for its turn, or for somebody to let it. */
export const isAtRest = ({ state, in_work }: Job) => !in_work && (state === "waiting" || state === "paused");

export const isRunning = ({ state }: Job) => state === "running";

/** Jobs by where the list shows them: what is being made or stands still in its making, what waits, what ended. */
export function byPlace<J extends Job>(jobs: readonly J[]) {
  return {
    inWork: jobs.filter((job) => job.in_work),
    atRest: jobs.filter(isAtRest),
    ended: jobs.filter((job) => !job.in_work && !isAtRest(job)),
  };
}
