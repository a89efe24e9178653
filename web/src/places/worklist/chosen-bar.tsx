import type { Schemas } from "../../api/client";
import { useChangeJobs } from "../../api/worklist";
import { ActBar } from "../../parts/act-bar";
import { useUndo } from "../../parts/undo";
import { Button } from "../../ui/button";

interface Props {
  jobs: Schemas["Job"][];
  onClear: () => void;
  onMove: (key: "Home" | "End") => void;
}

/** What can be done to several jobs that wait. */
export function ChosenBar({ jobs, onClear, onMove }: Props) {
  const change = useChangeJobs();
  const { remove } = useUndo();
  const ids = jobs.map(({ id }) => id);
  const count = ids.length === 1 ? "1 job" : `${ids.length} jobs`;
  const paused = jobs.every(({ state }) => state === "paused");
  return (
    <ActBar>
      <span className="font-semibold">{count} chosen</span>
      {change.isError && <span role="alert">{change.error.message}</span>}
      <div className="ml-auto flex flex-wrap items-center gap-4">
        <Button look="onDeep" size="text" onClick={onClear}>
          Clear
        </Button>
        <Button
          look="onDeep"
          size="text"
          onClick={() => {
            remove({
              kind: "job",
              ids,
              text: ids.length === 1 ? "1 job is off the Worklist." : `${count} are off the Worklist.`,
            });
            onClear();
          }}
        >
          Remove
        </Button>
        <Button
          look="onDeep"
          size="text"
          onClick={() => change.mutate({ ids, verb: paused ? "go_on" : "pause" })}
        >
          {paused ? "Let them begin" : "Pause"}
        </Button>
        <Button look="onDeep" size="text" onClick={() => onMove("End")}>
          Make last
        </Button>
        <Button look="accent" onClick={() => onMove("Home")}>
          Make next
        </Button>
      </div>
    </ActBar>
  );
}
