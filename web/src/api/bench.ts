import { keepPreviousData, useMutation, useQuery, useQueries, useQueryClient } from "@tanstack/react-query";

import { answer, client, type Schemas } from "./client";
import { keys, useChange } from "./queries";

export const usePicks = () =>
  useQuery({ queryKey: keys.picks, queryFn: () => answer(client.GET("/api/bench/picks")) });

export const useTable = () => useQuery({ queryKey: keys.table, queryFn: () => answer(client.GET("/api/bench")) });

export const useSheet = (title: number, device: number) =>
  useQuery({
    queryKey: keys.sheet(title, device),
    queryFn: () =>
      answer(
        client.GET("/api/bench/plans/{title_id}/{device_id}", {
          params: { path: { title_id: title, device_id: device } },
        }),
      ),
  });

export function useSetPicked() {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["PickChangeRequest"]) => answer(client.POST("/api/bench/picks", { body })),
    onMutate: ({ title_ids, picked }) => {
      // shown at once; the server's answer follows
      cache.setQueryData<Schemas["Picks"]>(keys.picks, (old) => {
        const kept = (old?.title_ids ?? []).filter((id) => !title_ids.includes(id));
        return { title_ids: picked ? [...kept, ...title_ids] : kept };
      });
    },
    onSettled: () => cache.invalidateQueries({ queryKey: ["bench"] }),
  });
}

export const useSetBenchBalance = () =>
  useChange(
    (balance: Schemas["Balance"]) => answer(client.PUT("/api/bench", { body: { balance } })),
    [["bench"]],
  );

export function useChangeSheet(title: number, device: number) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["PatchedSheetChangeRequest"]) =>
      answer(
        client.PATCH("/api/bench/plans/{title_id}/{device_id}", {
          params: { path: { title_id: title, device_id: device } },
          body,
        }),
      ),
    onSuccess: (sheet) => {
      cache.setQueryData(keys.sheet(title, device), sheet);
      return cache.invalidateQueries({ queryKey: ["bench", "cells"] });
    },
  });
}

/** Cells of the table, so many titles at a time; what is not `wanted` yet waits until what is wanted is there. */
export function useCells(chunks: readonly (readonly number[])[], wanted: (chunk: number) => boolean) {
  const cache = useQueryClient();
  const loaded = chunks.every((ids, place) => !wanted(place) || cache.getQueryState(keys.cells(ids))?.status === "success");
  return useQueries({
    queries: chunks.map((ids, place) => ({
      queryKey: keys.cells(ids),
      queryFn: () => answer(client.GET("/api/bench/cells", { params: { query: { titles: ids.join(",") } } })),
      enabled: wanted(place) || loaded,
    })),
  });
}

export const useGoals = (enabled: boolean) =>
  useQuery({ queryKey: keys.goals, queryFn: () => answer(client.GET("/api/bench/columns")), enabled });

export const useAddColumn = () =>
  useChange((body: Schemas["ColumnWantedRequest"]) => answer(client.POST("/api/bench/columns", { body })), [["bench"], keys.household]);

export const useRemoveColumn = () =>
  useChange(
    (id: number) => answer(client.DELETE("/api/bench/columns/{device_id}", { params: { path: { device_id: id } } })),
    [["bench"]],
  );

export const useVerdicts = (title: number) =>
  useQuery({
    queryKey: keys.verdicts(title),
    queryFn: () => answer(client.GET("/api/bench/titles/{title_id}/verdicts", { params: { path: { title_id: title } } })),
  });

export const useServing = (title: number | null, devices: string) =>
  useQuery({
    queryKey: keys.serving(title ?? 0, devices),
    queryFn: () => answer(client.GET("/api/bench/titles/{title_id}/serving", { params: { path: { title_id: title ?? 0 }, query: { devices } } })),
    enabled: title !== null && devices !== "",
    placeholderData: keepPreviousData,
  });

const cellPath = (title: number, device: number) => ({ params: { path: { title_id: title, device_id: device } } });

/** Gives the cell's pins to its siblings, or to every picked title. */
export const useCarry = (title: number, device: number) =>
  useChange(
    (to: "siblings" | "picked") => answer(client.POST("/api/bench/plans/{title_id}/{device_id}/carry", { ...cellPath(title, device), body: { to } })),
    [["bench"]],
  );

export const useKeepSet = (title: number, device: number) =>
  useChange(
    (name: string) => answer(client.POST("/api/bench/plans/{title_id}/{device_id}/sets", { ...cellPath(title, device), body: { name } })),
    [["bench"]],
  );

export function useApplySet(title: number, device: number) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (id: number) =>
      answer(
        client.PUT("/api/bench/plans/{title_id}/{device_id}/sets/{set_id}", {
          params: { path: { title_id: title, device_id: device, set_id: id } },
        }),
      ),
    onSuccess: (sheet) => {
      cache.setQueryData(keys.sheet(title, device), sheet);
      return cache.invalidateQueries({ queryKey: ["bench", "cells"] });
    },
  });
}

export const useTakeSet = () =>
  useChange((document: string) => answer(client.POST("/api/bench/sets", { body: { document } })), [["bench"]]);

export const useForgetSet = () =>
  useChange((id: number) => answer(client.DELETE("/api/bench/sets/{set_id}", { params: { path: { set_id: id } } })), [["bench"]]);
