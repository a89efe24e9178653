import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { answer, client, type Schemas } from "./client";

export const keys = {
  sources: ["shelf", "sources"] as const,
  title: (id: number) => ["shelf", "title", id] as const,
  drives: ["drives"] as const,
  folder: (path: string | null) => ["shelf", "folder", path] as const,
  picks: ["bench", "picks"] as const,
  table: ["bench", "table"] as const,
  sheet: (title: number, device: number) => ["bench", "sheet", title, device] as const,
  worklist: ["worklist"] as const,
  outbox: ["outbox"] as const,
  household: ["household"] as const,
};

export const useSources = () =>
  useQuery({ queryKey: keys.sources, queryFn: () => answer(client.GET("/api/shelf/sources")) });

export const useTitle = (id: number) =>
  useQuery({
    queryKey: keys.title(id),
    queryFn: () => answer(client.GET("/api/shelf/titles/{title_id}", { params: { path: { title_id: id } } })),
  });

export const useFolder = (path: string | null) =>
  useQuery({
    queryKey: keys.folder(path),
    queryFn: () => answer(client.GET("/api/shelf/folders", { params: { query: path === null ? {} : { path } } })),
  });

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

export const useWorklist = () =>
  useQuery({ queryKey: keys.worklist, queryFn: () => answer(client.GET("/api/worklist")) });

export const useOutbox = () => useQuery({ queryKey: keys.outbox, queryFn: () => answer(client.GET("/api/outbox")) });

export const useHousehold = () =>
  useQuery({ queryKey: keys.household, queryFn: () => answer(client.GET("/api/household")) });

/** A change that makes everything under `stale` be read again when it is done. */
function useChange<Input, Output>(run: (input: Input) => Promise<Output>, stale: readonly (readonly unknown[])[]) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: run,
    onSettled: () => Promise.all(stale.map((queryKey) => cache.invalidateQueries({ queryKey }))),
  });
}

export const useAddSource = () =>
  useChange((path: string) => answer(client.POST("/api/shelf/sources", { body: { path } })), [keys.sources]);

export type SourceVerb = "stop" | "read-again" | "find-again" | "remove";

export const useSourceAction = () =>
  useChange(
    ({ id, verb }: { id: number; verb: SourceVerb }) => {
      const params = { params: { path: { source_id: id } } };
      if (verb === "find-again") return answer(client.POST("/api/shelf/sources/{source_id}/find-again", params));
      if (verb === "stop") return answer(client.POST("/api/shelf/sources/{source_id}/stop", params));
      if (verb === "read-again") return answer(client.POST("/api/shelf/sources/{source_id}/read-again", params));
      return answer(client.DELETE("/api/shelf/sources/{source_id}", params));
    },
    [["shelf"], ["bench"]],
  );

export const useRenameSource = () =>
  useChange(
    ({ id, name }: { id: number; name: string }) =>
      answer(client.PATCH("/api/shelf/sources/{source_id}", { params: { path: { source_id: id } }, body: { name } })),
    [keys.sources],
  );

export const useChangeTitle = (id: number) =>
  useChange(
    (body: Schemas["PatchedTitleChangeRequest"]) =>
      answer(client.PATCH("/api/shelf/titles/{title_id}", { params: { path: { title_id: id } }, body })),
    [["shelf"], ["bench"]],
  );

export const useNameChapter = (id: number) =>
  useChange(
    ({ number, name }: { number: number; name: string }) =>
      answer(
        client.PATCH("/api/shelf/titles/{title_id}/chapters/{number}", {
          params: { path: { title_id: id, number } },
          body: { name },
        }),
      ),
    [keys.title(id)],
  );

export const useCutByChapters = (id: number) =>
  useChange(
    (ranges: Schemas["RangeRequest"][]) =>
      answer(client.PUT("/api/shelf/titles/{title_id}/parts", { params: { path: { title_id: id } }, body: { ranges } })),
    [["shelf"], ["bench"]],
  );

export const useDrives = () =>
  useQuery({
    queryKey: keys.drives,
    queryFn: () => answer(client.GET("/api/shelf/drives")),
    // a drive tells nobody that a disc was put into it
    refetchInterval: 2000,
  });

export const useDriveAction = () =>
  useChange(
    ({ number, disc, verb }: { number: number; disc?: string; verb: "insert" | "eject" | "read" }) => {
      const params = { params: { path: { number } } };
      if (verb === "insert") return answer(client.PUT("/api/shelf/drives/{number}/tray", { ...params, body: { disc: disc ?? "" } }));
      if (verb === "eject") return answer(client.DELETE("/api/shelf/drives/{number}/tray", params));
      return answer(client.POST("/api/shelf/drives/{number}/read", params));
    },
    [keys.drives, keys.sources],
  );

export const useLookOver = () => useMutation({ mutationFn: () => answer(client.POST("/api/shelf/look-over")) });

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
      return cache.invalidateQueries({ queryKey: keys.table });
    },
  });
}

export const useAddJobs = () =>
  useChange(
    (cells: Schemas["CellRefRequest"][]) => answer(client.POST("/api/worklist/jobs", { body: { cells } })),
    [keys.worklist],
  );

export const useJobAction = () =>
  useChange(
    ({ id, verb }: { id: number; verb: "stop" | "retry" | "remove" }) => {
      const params = { params: { path: { job_id: id } } };
      if (verb === "stop") return answer(client.POST("/api/worklist/jobs/{job_id}/stop", params));
      if (verb === "retry") return answer(client.POST("/api/worklist/jobs/{job_id}/retry", params));
      return answer(client.DELETE("/api/worklist/jobs/{job_id}", params));
    },
    [keys.worklist],
  );

export const useForgetOutput = () =>
  useChange(
    (id: number) => answer(client.DELETE("/api/outbox/{output_id}", { params: { path: { output_id: id } } })),
    [keys.outbox],
  );

export const useAddDevice = () =>
  useChange(
    (body: Schemas["NewDeviceRequest"]) => answer(client.POST("/api/household/devices", { body })),
    [keys.household, ["bench"]],
  );

export const useAddOwnDevice = () =>
  useChange(
    (body: Schemas["OwnDeviceRequest"]) => answer(client.POST("/api/household/own-devices", { body })),
    [keys.household, ["bench"]],
  );

export interface Answers {
  kind: Schemas["DeviceKind"];
  year?: number;
  screen_width?: number;
  screen_height?: number;
  plays_uhd?: boolean;
}

export const useNearest = (answers: Answers) =>
  useQuery({
    queryKey: ["household", "nearest", answers],
    queryFn: () => answer(client.GET("/api/household/nearest", { params: { query: answers } })),
    placeholderData: keepPreviousData,
  });

export const useRemoveDevice = () =>
  useChange(
    (id: number) => answer(client.DELETE("/api/household/devices/{device_id}", { params: { path: { device_id: id } } })),
    [keys.household, ["bench"]],
  );

export const useSetLanguages = () =>
  useChange(
    (languages: string[]) => answer(client.PUT("/api/household", { body: { languages } })),
    [keys.household, ["bench"]],
  );
