import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { answer, client, type Schemas } from "./client";
import { isAtRest } from "../domain/jobs";
import { putBefore } from "../domain/order";
import { keys, useChange } from "./queries";

export const useWorklist = () =>
  useQuery({ queryKey: keys.worklist, queryFn: () => answer(client.GET("/api/worklist")) });

export const useAddJobs = (onAdded: () => void) =>
  useChange(
    (cells: Schemas["CellRef"][]) => answer(client.POST("/api/worklist/jobs", { body: { cells } })),
    [keys.worklist],
    onAdded,
  );

/** Queues the most demanding minute of a title, to be tried on the device. */
export const useAddSample = (onAdded: () => void) =>
  useChange(
    (cell: Schemas["CellRef"]) => answer(client.POST("/api/worklist/samples", { body: cell })),
    [keys.worklist],
    onAdded,
  );

/** Queues a faithful copy of a whole disc. */
export const useCopyDisc = (onAdded: () => void) =>
  useChange(
    (source_id: number) => answer(client.POST("/api/worklist/copies", { body: { source_id } })),
    [keys.worklist],
    onAdded,
  );

/** Stops, pauses, goes on with, tries again or removes jobs. */
export const useChangeJobs = () =>
  useChange(
    ({ ids, verb }: { ids: Iterable<number>; verb: Schemas["JobVerb"] }) =>
      answer(client.POST("/api/worklist/changes", { body: { job_ids: [...ids], verb } })),
    [keys.worklist],
  );

/** Whether what waits may begin. */
export const useSetPace = () =>
  useChange(
    (body: Schemas["ListPace"]) => answer(client.POST("/api/worklist/pace", { body })),
    [keys.worklist],
  );

/** In which hours of the day things are made; `null` at any. */
export const useSetHours = () =>
  useChange(
    (hours: Schemas["Hours"] | null) => answer(client.PUT("/api/worklist/hours", { body: { hours } })),
    [keys.worklist],
  );

/** Does not wait for the hours: goes on until they end next. */
export const useOpenNow = () =>
  useChange(() => answer(client.POST("/api/worklist/hours/now")), [keys.worklist]);

/** What is done when all is made; an empty name for nothing. */
export const useChooseEnd = () =>
  useChange((name: string) => answer(client.PUT("/api/worklist/end", { body: { name } })), [keys.worklist]);

/** Has a job that nobody is at made by the plan that its cells have now. */
export const usePlanAnew = (onPlanned: () => void) =>
  useChange(
    (job_id: number) =>
      answer(client.POST("/api/worklist/jobs/{job_id}/plan", { params: { path: { job_id } } })),
    [keys.worklist],
    onPlanned,
  );

/** Puts jobs that wait before another one, or last; the list shows it at once. */
export function useMoveJobs() {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: ({ ids, before }: { ids: ReadonlySet<number>; before: number | null }) =>
      answer(client.POST("/api/worklist/order", { body: { job_ids: [...ids], before } })),
    onMutate: ({ ids, before }) => {
      cache.setQueryData<Schemas["Worklist"]>(keys.worklist, (old) => {
        if (!old) return old;
        const waits = old.jobs.filter(isAtRest);
        const order = putBefore(waits, ids, before);
        return {
          ...old,
          jobs: old.jobs.map((job) => (isAtRest(job) ? (order.shift() ?? job) : job)),
        };
      });
    },
    onSettled: () => cache.invalidateQueries({ queryKey: keys.worklist }),
  });
}
