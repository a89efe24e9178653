import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { keepSheet } from "./bench";
import { answer, client } from "./client";
import { keys } from "./queries";

const MEASURING_MS = 700;

/** What was measured of each balance; asked for again while more is, and whenever the plan is another one. */
export const useTradeOff = (title: number, target: number, plan: string) =>
  useQuery({
    queryKey: keys.tradeOff(title, target, plan),
    queryFn: () =>
      answer(
        client.GET("/api/bench/plans/{title_id}/{target_id}/trade-off", {
          params: { path: { title_id: title, target_id: target } },
        }),
      ),
    placeholderData: keepPreviousData,
    refetchInterval: (query) => (query.state.data?.measuring ? MEASURING_MS : false),
  });

/** Begins to measure, or measures no further. */
export function useMeasureTradeOff(title: number, target: number, plan: string) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (wanted: boolean) => {
      const where = { params: { path: { title_id: title, target_id: target } } };
      const address = "/api/bench/plans/{title_id}/{target_id}/trade-off" as const;
      return answer(wanted ? client.POST(address, where) : client.DELETE(address, where));
    },
    onSuccess: (known) => cache.setQueryData(keys.tradeOff(title, target, plan), known),
  });
}

export type AskedFor = { kind: "fidelity"; score: number } | { kind: "time"; minutes: number };

/** Pins the rate at which the picture is expected to keep so much, or the preset that is done in time. */
export function useAskFor(title: number, target: number) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (asked: AskedFor) => {
      const params = { path: { title_id: title, target_id: target } };
      return asked.kind === "fidelity"
        ? answer(
            client.PUT("/api/bench/plans/{title_id}/{target_id}/fidelity", {
              params,
              body: { score: asked.score },
            }),
          )
        : answer(
            client.PUT("/api/bench/plans/{title_id}/{target_id}/time", {
              params,
              body: { most_s: asked.minutes * 60 },
            }),
          );
    },
    onSuccess: (sheet) => keepSheet(cache, sheet),
  });
}
