import { useQuery } from "@tanstack/react-query";

import { answer, client, type Schemas } from "./client";
import { useChange } from "./queries";

const LOOKING_MS = 700;
const proposed = (id: number) => ["shelf", "chapters", id] as const;

/** What a list or a pattern would make of a title's chapters. */
export const useReadChapters = (id: number, wanted: Schemas["ChapterList"] | null) =>
  useQuery({
    queryKey: [...proposed(id), wanted],
    enabled: wanted !== null,
    retry: false,
    queryFn: () =>
      answer(
        client.POST("/api/shelf/titles/{title_id}/chapters", {
          params: { path: { title_id: id } },
          body: wanted ?? {},
        }),
      ),
  });

/** Chapters at even distances; they are looked for in the background. */
export const useEvenChapters = (id: number, every: number | null) =>
  useQuery({
    queryKey: [...proposed(id), "even", every],
    enabled: every !== null,
    retry: false,
    queryFn: () =>
      answer(
        client.GET("/api/shelf/titles/{title_id}/even-chapters", {
          params: { path: { title_id: id }, query: { every_s: every ?? 0 } },
        }),
      ),
    refetchInterval: (query) => (query.state.data?.looking ? LOOKING_MS : false),
  });

export const useSetChapters = (id: number, onDone?: () => void) =>
  useChange(
    (body: Schemas["Chapters"]) =>
      answer(
        client.PUT("/api/shelf/titles/{title_id}/chapters", { params: { path: { title_id: id } }, body }),
      ),
    [["shelf"], ["bench", "sheet"]],
    onDone,
  );
