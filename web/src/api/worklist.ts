import { type QueryClient, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { answer, client, type Schemas } from "./client";
import { isAtRest } from "../domain/jobs";
import { putBefore } from "../domain/order";
import { keys, useChange } from "./queries";

type Worklist = Schemas["Worklist"];

interface Move {
  ids: ReadonlySet<number>;
  before: number | null;
}

const MOVES = ["worklist", "moves"] as const;

/** The list; what was read before a move arrived shows it too, so that the next one is aimed at what is seen. */
export const useWorklist = ({ enabled = true } = {}) =>
  useQuery({
    enabled,
    queryKey: keys.worklist,
    queryFn: async ({ client: cache }) => {
      const list = await answer(client.GET("/api/worklist"));
      return movesUnderWay(cache).reduce(afterMove, list);
    },
  });

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

/** How much of the machine the making takes. */
export const useShareMachine = () =>
  useChange(
    (body: Schemas["MachineChoice"]) => answer(client.PUT("/api/worklist/machine", { body })),
    [keys.worklist],
  );

/** Whether nothing is made while the machine lives on its battery. */
export const useMindBattery = () =>
  useChange(
    (minded: boolean) => answer(client.PUT("/api/worklist/machine/battery", { body: { minded } })),
    [keys.worklist],
  );

/** Whether everything stands still while other programs want the machine. */
export const useMindOthers = () =>
  useChange(
    (minded: boolean) => answer(client.PUT("/api/worklist/machine/others", { body: { minded } })),
    [keys.worklist],
  );

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

/** Puts jobs that wait before another one, or last, one move after the other; the list shows each at once. */
export function useMoveJobs() {
  const cache = useQueryClient();
  return useMutation({
    mutationKey: MOVES,
    scope: { id: MOVES.join() },
    mutationFn: ({ ids, before }: Move) =>
      answer(client.POST("/api/worklist/order", { body: { job_ids: [...ids], before } })),
    onMutate: (move) => {
      cache.setQueryData<Worklist>(keys.worklist, (old) => old && afterMove(old, move));
    },
    // not waited for: what is read then is the truth, with or without this move
    onSettled: () => void cache.invalidateQueries({ queryKey: keys.worklist }),
  });
}

function movesUnderWay(cache: QueryClient): Move[] {
  const moves = cache.getMutationCache().findAll({ mutationKey: MOVES, status: "pending" });
  return moves.flatMap(({ state }) => (isMove(state.variables) ? [state.variables] : []));
}

const isMove = (asked: unknown): asked is Move =>
  typeof asked === "object" && asked !== null && "ids" in asked && "before" in asked;

function afterMove(list: Worklist, { ids, before }: Move): Worklist {
  const order = putBefore(list.jobs.filter(isAtRest), ids, before);
  return { ...list, jobs: list.jobs.map((job) => (isAtRest(job) ? (order.shift() ?? job) : job)) };
}
