import { answer, client } from "./client";
import { keys, useChange } from "./queries";

export type Removable = "source" | "join" | "device" | "output" | "job";

export interface Removed {
  kind: Removable;
  ids: readonly number[];
}

/** Removes for good; the call outlives the page. */
function remove({ kind, ids }: Removed): Promise<unknown> {
  if (kind === "job")
    return answer(client.POST("/api/worklist/changes", { body: { job_ids: [...ids], verb: "remove" } }));
  return Promise.all(ids.map((id) => removeOne(kind, id)));
}

function removeOne(kind: Exclude<Removable, "job">, id: number): Promise<unknown> {
  if (kind === "source")
    return answer(
      client.DELETE("/api/shelf/sources/{source_id}", {
        params: { path: { source_id: id } },
      }),
    );
  if (kind === "join")
    return answer(client.DELETE("/api/shelf/joins/{title_id}", { params: { path: { title_id: id } } }));
  if (kind === "device")
    return answer(
      client.DELETE("/api/household/devices/{device_id}", {
        params: { path: { device_id: id } },
      }),
    );
  return answer(client.DELETE("/api/outbox/{output_id}", { params: { path: { output_id: id } } }));
}

export const useRemoval = () =>
  useChange(remove, [["shelf"], ["bench"], keys.worklist, ["outbox"], keys.household]);
