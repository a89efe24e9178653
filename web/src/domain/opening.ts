interface Job {
  id: number;
  state: string;
}

const UNDER_WAY = ["waiting", "running", "paused"];

/** Of the jobs whose files are to be opened: the one whose file can be now, and those that are still waited for. */
export function opened(wanted: readonly number[], jobs: readonly Job[]): { ready?: number; left: number[] } {
  const state = (id: number) => jobs.find((job) => job.id === id)?.state ?? "gone";
  return {
    ready: wanted.find((id) => state(id) === "done"),
    left: wanted.filter((id) => UNDER_WAY.includes(state(id))),
  };
}
