import { notifyManager, QueryClient } from "@tanstack/react-query";

/** What was read and is being changed. */
export function newCache(): QueryClient {
  // before the browser draws or hears anything else: what was just chosen never springs back for a moment
  notifyManager.setScheduler(queueMicrotask);
  return new QueryClient({
    defaultOptions: { queries: { staleTime: 30_000, retry: 1, refetchOnWindowFocus: false } },
  });
}
