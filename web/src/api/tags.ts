import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { answer, client, type Schemas } from "./client";
import { keys, useChange } from "./queries";

const tagsOf = (titles: readonly number[]) => ["shelf", "tags", titles.join(",")] as const;
const naming = ["home", "naming"] as const;
const MOST_AT_ONCE = 250;

/** In pieces of so many at most, one at least. */
function inPieces<T>(all: readonly T[], most: number): T[][] {
  const count = Math.max(Math.ceil(all.length / most), 1);
  return Array.from({ length: count }, (_, place) => all.slice(place * most, (place + 1) * most));
}

/** What is known of works, and what their files are called by it. */
export const useTags = (titles: readonly number[] | undefined) =>
  useQuery({
    queryKey: tagsOf(titles ?? []),
    enabled: titles !== undefined,
    queryFn: async () => {
      const asked = inPieces(titles ?? [], MOST_AT_ONCE).map((some) =>
        answer(client.GET("/api/shelf/tags", { params: { query: { titles: some } } })),
      );
      const [first, ...more] = await Promise.all(asked);
      return first && { ...first, titles: [first, ...more].flatMap((one) => one.titles) };
    },
  });

/** Sets tags of some of these titles; what comes of it is shown without reading all of them again. */
export function useChangeTags(titles: readonly number[]) {
  const cache = useQueryClient();
  return useMutation({
    // one after the other: each is kept with what it changed
    scope: { id: "tags" },
    mutationFn: ({ changes, work }: { changes: Schemas["TagChange"][]; work: string }) =>
      answer(client.PATCH("/api/shelf/tags", { body: { changes, work } })),
    onSuccess: (changed) => {
      const anew = new Map(changed.titles.map((row) => [row.title_id, row]));
      cache.setQueryData<Schemas["Tags"]>(tagsOf(titles), (old) =>
        old ? { ...old, titles: old.titles.map((row) => anew.get(row.title_id) ?? row) } : changed,
      );
    },
    onSettled: () =>
      Promise.all([
        cache.invalidateQueries({ queryKey: ["bench", "sheet"] }),
        cache.invalidateQueries({ queryKey: outdated }),
      ]),
  });
}

const outdated = ["outbox", "outdated"] as const;
const WRITING_MS = 900;

/** Files of titles in which something else is written than is known now, and how many are being written. */
export const useOutdatedFiles = (titles: readonly number[]) =>
  useQuery({
    queryKey: [...outdated, titles.join(",")],
    queryFn: async () => {
      const asked = inPieces(titles, MOST_AT_ONCE).map((some) =>
        answer(client.GET("/api/outbox/outdated", { params: { query: { titles: some } } })),
      );
      const found = await Promise.all(asked);
      return {
        files: found.flatMap(({ files }) => files),
        writing: found.reduce((sum, { writing }) => sum + writing, 0),
      };
    },
    refetchInterval: (query) => (query.state.data?.writing ? WRITING_MS : false),
  });

/** Has what is known of titles now written into their files. */
export const useUpdateFiles = () =>
  useChange(
    async ({ titles, rename }: { titles: readonly number[]; rename: boolean }) => {
      for (const some of inPieces(titles, MOST_AT_ONCE))
        await answer(client.POST("/api/outbox/outdated", { body: { titles: some, rename } }));
    },
    [outdated, keys.outbox, ["outbox", "one"]],
  );

export const useNaming = () =>
  useQuery({ queryKey: naming, queryFn: () => answer(client.GET("/api/home/naming")) });

export const useChangeNaming = () =>
  useChange(
    (body: Schemas["NamingChange"]) => answer(client.PATCH("/api/home/naming", { body })),
    [naming, ["shelf", "tags"], ["bench", "sheet"]],
  );

/** What a pattern would make, without keeping it. */
export const useTryNaming = (patterns: Record<string, string> | null) =>
  useQuery({
    queryKey: [...naming, "tried", patterns],
    enabled: patterns !== null,
    placeholderData: (before) => before,
    queryFn: () =>
      answer(client.PATCH("/api/home/naming", { body: { patterns: patterns ?? {}, only_try: true } })),
  });

/** Other tags into a file that was made. */
export const useChangeOutputTags = (id: number, onDone: () => void) =>
  useChange(
    (body: Schemas["NewTags"]) =>
      answer(client.PATCH("/api/outbox/{output_id}/tags", { params: { path: { output_id: id } }, body })),
    [keys.output(id), keys.outbox],
    onDone,
  );
