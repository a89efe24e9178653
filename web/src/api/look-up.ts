import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";

import { answer, client, type Schemas } from "./client";

const choice = ["home", "look-up"] as const;

/** The look-up service of the settings, and whether it may be asked. */
export const useLookUpChoice = () =>
  useQuery({ queryKey: choice, queryFn: () => answer(client.GET("/api/home/look-up")) });

export function useAllowLookUp() {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (allowed: boolean) => answer(client.PATCH("/api/home/look-up", { body: { allowed } })),
    onSuccess: (said) => cache.setQueryData(choice, said),
  });
}

/** Asks the service; what it knows is shown and not taken. `stop` ends the waiting. */
export function useLookUp() {
  const waiting = useRef<AbortController>(null);
  const asking = useMutation({
    mutationFn: (body: Schemas["LookUpWanted"]) => {
      waiting.current = new AbortController();
      return answer(client.POST("/api/shelf/look-ups", { body, signal: waiting.current.signal }));
    },
  });
  return {
    asking,
    stop: () => {
      waiting.current?.abort();
      asking.reset();
    },
  };
}
