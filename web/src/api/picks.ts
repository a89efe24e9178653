import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { answer, client, type Schemas } from "./client";
import { keys } from "./queries";

const picking = ["picking"] as const;

const isChange = (asked: unknown): asked is Schemas["PickChange"] =>
  typeof asked === "object" && asked !== null && "title_ids" in asked && "picked" in asked;

/** What is picked once a change has come to the server. */
function changed(old: Schemas["Picks"] | undefined, { title_ids, picked }: Schemas["PickChange"]) {
  const kept = (old?.title_ids ?? []).filter((id) => !title_ids.includes(id));
  return { title_ids: picked ? [...kept, ...title_ids] : kept };
}

/** The titles that are picked; changes on their way to the server count already. */
export function usePicks() {
  const cache = useQueryClient();
  return useQuery({
    queryKey: keys.picks,
    queryFn: async () => {
      const known = await answer(client.GET("/api/bench/picks"));
      const underWay = cache.getMutationCache().findAll({ mutationKey: picking, status: "pending" });
      return underWay
        .flatMap(({ state }) => (isChange(state.variables) ? [state.variables] : []))
        .reduce(changed, known);
    },
  });
}

export function useSetPicked() {
  const cache = useQueryClient();
  return useMutation({
    mutationKey: picking,
    // one after the other, as they were meant; and only the last is followed by a look at what the server has
    scope: { id: picking[0] },
    mutationFn: (body: Schemas["PickChange"]) => answer(client.POST("/api/bench/picks", { body })),
    onMutate: (change) => {
      // shown at once; the server's answer follows
      cache.setQueryData<Schemas["Picks"]>(keys.picks, (old) => changed(old, change));
    },
    onSettled: () =>
      cache.isMutating({ mutationKey: picking }) === 1
        ? cache.invalidateQueries({ queryKey: ["bench"] })
        : // an answer on its way may be older than this change
          cache.cancelQueries({ queryKey: keys.picks }),
  });
}
