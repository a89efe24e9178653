import { keepPreviousData, useInfiniteQuery } from "@tanstack/react-query";

import { under } from "./base";
import { answer, client } from "./client";
import { keys } from "./queries";

export const OUTCOMES = ["all", "made", "not made"] as const;

export interface HistoryWanted {
  q: string;
  outcome: (typeof OUTCOMES)[number];
}

/** What became of jobs, newest first; what comes next is read when the list's end is in view. */
export function useHistory(wanted: HistoryWanted) {
  const found = useInfiniteQuery({
    queryKey: keys.history(wanted.q, wanted.outcome),
    queryFn: ({ pageParam: after }) =>
      answer(client.GET("/api/worklist/history", { params: { query: { ...wanted, after } } })),
    initialPageParam: 0,
    getNextPageParam: (page) => page.records.at(-1)?.id,
    placeholderData: keepPreviousData,
  });
  return {
    ...found,
    records: found.data?.pages.flatMap((page) => page.records) ?? [],
    // of the first page: the others were counted when somebody scrolled
    first: found.data?.pages[0],
    more: () => {
      if (found.hasNextPage && !found.isFetching && !found.isError) void found.fetchNextPage();
    },
  };
}

/** Where the same records are to be had as CSV. */
export const historyFile = ({ q, outcome }: HistoryWanted) =>
  under(`/api/worklist/history.csv?${new URLSearchParams({ q, outcome }).toString()}`);
