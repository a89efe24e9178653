import { keepPreviousData, useQuery } from "@tanstack/react-query";

import { answer, client } from "./client";
import { useChange } from "./queries";

const library = ["outbox", "library"] as const;
const LOOKING_MS = 1000;

/** What is in the library: all of it, what is there twice, or what the device does not play as it is. */
export const useLibrary = (shown: "all" | "double" | "not_on", deviceId: number | undefined) =>
  useQuery({
    queryKey: [...library, shown, deviceId ?? null],
    queryFn: () =>
      answer(client.GET("/api/outbox/library", { params: { query: { shown, device_id: deviceId } } })),
    placeholderData: keepPreviousData,
    refetchInterval: (query) => (query.state.data?.looking ? LOOKING_MS : false),
  });

/** Has the library looked through, or stops that. */
export const useLookThroughLibrary = () =>
  useChange(
    (wanted: boolean) =>
      wanted ? answer(client.POST("/api/outbox/library")) : answer(client.DELETE("/api/outbox/library")),
    [library],
  );
