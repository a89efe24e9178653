import {
  keepPreviousData,
  type QueryClient,
  useMutation,
  useQuery,
  useQueries,
  useQueryClient,
} from "@tanstack/react-query";

import { useEffect, useState } from "react";

import { answer, client, type Schemas } from "./client";
import { BALANCES } from "../domain/balances";
import { keys, useChange } from "./queries";

export const useTable = () =>
  useQuery({ queryKey: keys.table, queryFn: () => answer(client.GET("/api/bench")) });

export const useSheet = (title: number, target: number) =>
  useQuery({
    queryKey: keys.sheet(title, target),
    queryFn: () =>
      answer(
        client.GET("/api/bench/plans/{title_id}/{target_id}", {
          params: { path: { title_id: title, target_id: target } },
        }),
      ),
  });

/** Shown at once: the table asks for its cells at a balance, and has mostly read them ahead. */
export function useSetBenchBalance() {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (balance: Schemas["Balance"]) => answer(client.PUT("/api/bench", { body: { balance } })),
    onMutate: (balance) =>
      cache.setQueryData<Schemas["Table"]>(keys.table, (old) => old && { ...old, balance }),
    onSuccess: (table) => {
      cache.setQueryData(keys.table, table);
      return cache.invalidateQueries({ queryKey: ["bench", "sheet"] });
    },
    onError: () => cache.invalidateQueries({ queryKey: keys.table }),
  });
}

const LOOKING_MS = 1500;

/** What of a title could be left out; asked for again while it is looked for, and the same afterwards. */
export const useProposals = (title: number, enabled: boolean) =>
  useQuery({
    queryKey: keys.proposals(title),
    queryFn: () =>
      answer(client.GET("/api/shelf/titles/{title_id}/proposals", { params: { path: { title_id: title } } })),
    enabled,
    staleTime: Infinity,
    refetchInterval: (query) => (query.state.data?.looking ? LOOKING_MS : false),
  });

/** Cuts each episode of a series where its own proposals lie; again while some are still looked at. */
export function useCutSeries(title: number, target: number) {
  const cache = useQueryClient();
  const cut = useMutation({
    mutationFn: () =>
      answer(
        client.POST("/api/bench/plans/{title_id}/{target_id}/series", {
          params: { path: { title_id: title, target_id: target } },
        }),
      ),
    onSuccess: () => cache.invalidateQueries({ queryKey: ["bench"] }),
  });
  const { mutate, data, isPending } = cut;
  useEffect(() => {
    if (!data?.looking || isPending) return;
    const again = setTimeout(() => mutate(), LOOKING_MS);
    return () => clearTimeout(again);
  }, [data, isPending, mutate]);
  return cut;
}

/** How loud a title is along its time. */
export const useLevels = (title: number) =>
  useQuery({
    queryKey: keys.levels(title),
    queryFn: () =>
      answer(client.GET("/api/shelf/titles/{title_id}/levels", { params: { path: { title_id: title } } })),
    staleTime: Infinity,
    refetchInterval: (query) => (query.state.data?.looking ? LOOKING_MS : false),
  });

/** The next change of scene from a moment on, or the one before. */
export const useNextScene = (title: number) =>
  useMutation({
    mutationFn: (wanted: { at_s: number; before: boolean }) =>
      answer(
        client.GET("/api/shelf/titles/{title_id}/scene", {
          params: { path: { title_id: title }, query: wanted },
        }),
      ),
  });

/** A sheet that came as the answer to a change of it, beside which the table's cells are old. */
export function keepSheet(cache: QueryClient, sheet: Schemas["Sheet"]) {
  cache.setQueryData(keys.sheet(sheet.title_id, sheet.target_id), sheet);
  return cache.invalidateQueries({ queryKey: ["bench", "cells"] });
}

export function useChangeSheet(title: number, target: number) {
  const cache = useQueryClient();
  return useMutation({
    // one after the other: the last answer is the sheet as it is
    scope: { id: `sheet ${title} ${target}` },
    mutationFn: (body: Schemas["SheetChange"]) =>
      answer(
        client.PATCH("/api/bench/plans/{title_id}/{target_id}", {
          params: { path: { title_id: title, target_id: target } },
          body,
        }),
      ),
    onSuccess: (sheet) => keepSheet(cache, sheet),
  });
}

/** Takes back what was set by hand in a cell and can't be meant there any more. */
export function useTakeBackRefused(title: number, target: number) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: () =>
      answer(
        client.DELETE("/api/bench/plans/{title_id}/{target_id}", {
          params: { path: { title_id: title, target_id: target } },
        }),
      ),
    onSuccess: (sheet) => keepSheet(cache, sheet),
  });
}

const cellsQuery = (titles: readonly number[], balance: Schemas["Balance"]) => ({
  queryKey: keys.cells(titles, balance),
  queryFn: () =>
    answer(client.GET("/api/bench/cells", { params: { query: { titles: titles.join(","), balance } } })),
});

/**
 * Cells of the table, so many titles at a time. What is in view comes first; then, when nothing is clicked for a while,
 * what the other balances come to there, and then the rest of the table.
 */
export function useCells(
  chunks: readonly (readonly number[])[],
  balance: Schemas["Balance"],
  inView: (chunk: number) => boolean,
  whole = false,
) {
  const cache = useQueryClient();
  const [rest, setRest] = useState("");
  const shown = chunks.filter((_, place) => inView(place));
  const what = `${balance} ${shown.map((ids) => ids.join()).join(";")}`;
  const found = useQueries({
    queries: chunks.map((ids, place) => ({
      ...cellsQuery(ids, balance),
      enabled: inView(place) || whole || rest === what,
      placeholderData: keepPreviousData,
    })),
  });
  const ready = chunks.every(
    (_, place) => !inView(place) || (found[place]?.isSuccess && !found[place].isPlaceholderData),
  );
  useEffect(() => {
    if (!ready) return;
    let gone = false;
    const readAhead = async () => {
      for (const other of BALANCES)
        for (const ids of shown)
          if (!gone) await cache.prefetchQuery({ ...cellsQuery(ids, other), staleTime: 60_000 });
      if (!gone) setRest(what);
    };
    const timer = setTimeout(() => void readAhead(), REST_MS);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
    // the lists are new at each draw; what they hold is told by `what`
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [what, ready, cache]);
  return found;
}

const REST_MS = 700;

export const useGoals = (enabled: boolean) =>
  useQuery({ queryKey: keys.goals, queryFn: () => answer(client.GET("/api/bench/goals")), enabled });

export const useAddTarget = () =>
  useChange(
    (body: Schemas["TargetWanted"]) => answer(client.POST("/api/bench/targets", { body })),
    [["bench"], keys.household],
  );

export const useRemoveTarget = () =>
  useChange(
    (id: number) =>
      answer(client.DELETE("/api/bench/targets/{target_id}", { params: { path: { target_id: id } } })),
    [["bench"]],
  );

export const useVerdicts = (title: number) =>
  useQuery({
    queryKey: keys.verdicts(title),
    queryFn: () =>
      answer(client.GET("/api/bench/titles/{title_id}/verdicts", { params: { path: { title_id: title } } })),
  });

export const useSharing = (title: number | null, devices: string) =>
  useQuery({
    queryKey: keys.sharing(title ?? 0, devices),
    queryFn: () =>
      answer(
        client.GET("/api/bench/titles/{title_id}/sharing", {
          params: { path: { title_id: title ?? 0 }, query: { devices } },
        }),
      ),
    enabled: title !== null && devices !== "",
    placeholderData: keepPreviousData,
  });

const cellPath = (title: number, target: number) => ({
  params: { path: { title_id: title, target_id: target } },
});

/** Gives the cell's pins to its siblings, or to every picked title. */
export const useTransfer = (title: number, target: number) =>
  useChange(
    (to: "siblings" | "picked") =>
      answer(
        client.POST("/api/bench/plans/{title_id}/{target_id}/transfer", {
          ...cellPath(title, target),
          body: { to },
        }),
      ),
    [["bench"]],
  );

export const useKeepSet = (title: number, target: number) =>
  useChange(
    (name: string) =>
      answer(
        client.POST("/api/bench/plans/{title_id}/{target_id}/sets", {
          ...cellPath(title, target),
          body: { name },
        }),
      ),
    [["bench"]],
  );

export function useApplySet(title: number, target: number) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (id: number) =>
      answer(
        client.PUT("/api/bench/plans/{title_id}/{target_id}/sets/{set_id}", {
          params: { path: { title_id: title, target_id: target, set_id: id } },
        }),
      ),
    onSuccess: (sheet) => keepSheet(cache, sheet),
  });
}

export const useTakeSet = () =>
  useChange(
    (document: string) => answer(client.POST("/api/bench/sets", { body: { document } })),
    [["bench"]],
  );

export const useForgetSet = () =>
  useChange(
    (id: number) => answer(client.DELETE("/api/bench/sets/{set_id}", { params: { path: { set_id: id } } })),
    [["bench"]],
  );
