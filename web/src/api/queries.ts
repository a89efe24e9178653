import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";

import { answer, client, keptByTag, type Schemas } from "./client";
import { usePages } from "./pages";

export const keys = {
  sources: ["shelf", "sources"] as const,
  title: (id: number) => ["shelf", "title", id] as const,
  proposals: (id: number) => ["shelf", "proposals", id] as const,
  levels: (id: number) => ["shelf", "levels", id] as const,
  drives: ["drives"] as const,
  folder: (path: string | null) => ["shelf", "folder", path] as const,
  picks: ["bench", "picks"] as const,
  table: ["bench", "table"] as const,
  cells: (titles: readonly number[], balance: string) =>
    ["bench", "cells", balance, titles.join(",")] as const,
  goals: ["bench", "goals"] as const,
  verdicts: (title: number) => ["bench", "verdicts", title] as const,
  sharing: (title: number, devices: string) => ["bench", "sharing", title, devices] as const,
  tradeOff: (title: number, target: number, plan: string) =>
    ["bench", "trade-off", title, target, plan] as const,
  sheet: (title: number, device: number) => ["bench", "sheet", title, device] as const,
  worklist: ["worklist"] as const,
  history: (q: string, outcome: string) => ["worklist", "history", outcome, q] as const,
  outbox: ["outbox", "list"] as const,
  output: (id: number) => ["outbox", "one", id] as const,
  household: ["household"] as const,
  pairing: ["household", "pairing"] as const,
};

const shelfPage = keptByTag<Schemas["Source"][]>();
const outboxPage = keptByTag<Schemas["Outbox"]>();

/** Every source with its titles. */
export function useSources() {
  const found = usePages<Schemas["Source"][]>(
    keys.sources,
    (after) =>
      shelfPage(client.GET("/api/shelf/sources", { params: { query: { after } }, parseAs: "stream" })),
    (page) => page.at(-1)?.id,
  );
  return { ...found, data: useMemo(() => found.pages?.flat(), [found.pages]) };
}

export const useTitle = (id: number) =>
  useQuery({
    queryKey: keys.title(id),
    queryFn: () => answer(client.GET("/api/shelf/titles/{title_id}", { params: { path: { title_id: id } } })),
  });

export const useFolder = (path: string | null) =>
  useQuery({
    queryKey: keys.folder(path),
    queryFn: () =>
      answer(client.GET("/api/shelf/folders", { params: { query: path === null ? {} : { path } } })),
  });

/** Every output in outline, with how many there are in all and how large. */
export function useOutbox() {
  const found = usePages<Schemas["Outbox"]>(
    keys.outbox,
    (after) => outboxPage(client.GET("/api/outbox", { params: { query: { after } }, parseAs: "stream" })),
    (page) => page.outputs.at(-1)?.id,
  );
  const outputs = useMemo(() => found.pages?.flatMap((page) => page.outputs), [found.pages]);
  return {
    ...found,
    outputs,
    count: found.pages?.[0]?.count ?? 0,
    samples: found.pages?.[0]?.samples ?? 0,
    bytes: found.pages?.[0]?.size_bytes ?? 0,
  };
}

export const useOutput = (id: number) =>
  useQuery({
    queryKey: keys.output(id),
    queryFn: () => answer(client.GET("/api/outbox/{output_id}", { params: { path: { output_id: id } } })),
  });

/** The file that a job made. */
export const useOutputOfJob = (jobId: number) =>
  useQuery({
    queryKey: ["outbox", "job", jobId],
    queryFn: () => answer(client.GET("/api/outbox/jobs/{job_id}", { params: { path: { job_id: jobId } } })),
    retry: false,
  });

/**
 * A change that makes everything under `stale` be read again when it is done. `onDone` is called even where what asked
 * for it has been drawn anew meanwhile, as on a busy machine; what is handed to `mutate` is forgotten then.
 */
export function useChange<Input, Output>(
  run: (input: Input) => Promise<Output>,
  stale: readonly (readonly unknown[])[],
  onDone?: (output: Output) => void,
) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: run,
    onSuccess: onDone,
    onSettled: () => Promise.all(stale.map((queryKey) => cache.invalidateQueries({ queryKey }))),
  });
}

export const useAddSource = () =>
  useChange((path: string) => answer(client.POST("/api/shelf/sources", { body: { path } })), [keys.sources]);

export type SourceVerb = "stop" | "read-again" | "find-again";

export const useSourceAction = () =>
  useChange(
    ({ id, verb }: { id: number; verb: SourceVerb }) => {
      const params = { params: { path: { source_id: id } } };
      if (verb === "find-again")
        return answer(client.POST("/api/shelf/sources/{source_id}/find-again", params));
      if (verb === "stop") return answer(client.POST("/api/shelf/sources/{source_id}/stop", params));
      return answer(client.POST("/api/shelf/sources/{source_id}/read-again", params));
    },
    [["shelf"], ["bench"]],
  );

export const useRenameSource = () =>
  useChange(
    ({ id, name }: { id: number; name: string }) =>
      answer(
        client.PATCH("/api/shelf/sources/{source_id}", {
          params: { path: { source_id: id } },
          body: { name },
        }),
      ),
    [keys.sources],
  );

export const useChangeTitle = (id: number) =>
  useChange(
    (body: Schemas["TitleChange"]) =>
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
    (ranges: Schemas["ChapterRange"][]) =>
      answer(
        client.PUT("/api/shelf/titles/{title_id}/parts", {
          params: { path: { title_id: id } },
          body: { ranges },
        }),
      ),
    [["shelf"], ["bench"]],
  );

export const useJoinTitles = () =>
  useChange(
    (body: { titles: number[]; name: string }) => answer(client.POST("/api/shelf/joins", { body })),
    [["shelf"], ["bench"]],
  );

export const useReorderJoin = (id: number) =>
  useChange(
    (titles: number[]) =>
      answer(
        client.PUT("/api/shelf/joins/{title_id}", {
          params: { path: { title_id: id } },
          body: { titles, name: "" },
        }),
      ),
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
      if (verb === "insert")
        return answer(
          client.PUT("/api/shelf/drives/{number}/tray", { ...params, body: { disc: disc ?? "" } }),
        );
      if (verb === "eject") return answer(client.DELETE("/api/shelf/drives/{number}/tray", params));
      return answer(client.POST("/api/shelf/drives/{number}/read", params));
    },
    [keys.drives, keys.sources],
  );

export const useLookOver = () =>
  useMutation({ mutationFn: () => answer(client.POST("/api/shelf/look-over")) });

export const useReportPlayed = (id: number) =>
  useChange(
    (body: Schemas["Report"]) =>
      answer(client.POST("/api/outbox/{output_id}/reports", { params: { path: { output_id: id } }, body })),
    [keys.output(id), ["outbox", "handovers"], keys.household, ["bench"]],
  );
