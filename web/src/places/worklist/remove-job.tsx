import type { Schemas } from "../../api/client";
import { useUndo } from "../../parts/undo";
import { Button } from "../../ui/button";

/** Takes a job off the list; for a while that can be taken back. */
export function RemoveJob({ job }: { job: Schemas["Job"] }) {
  const { remove } = useUndo();
  return (
    <Button
      look="quiet"
      size="text"
      onClick={() => remove({ kind: "job", ids: [job.id], text: `${job.title_name} is off the Worklist.` })}
      aria-label={`Remove ${job.title_name}`}
    >
      Remove
    </Button>
  );
}
