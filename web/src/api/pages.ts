import { useInfiniteQuery } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";

/** A long list, read page by page: what there is of it can be shown at once, the rest follows by itself. `next` says where the following page begins; none after the last. */
export function usePages<Entry>(queryKey: readonly unknown[], read: (after: number) => Promise<Entry[]>, next: (page: Entry[]) => number | undefined) {
  const pages = useInfiniteQuery({
    queryKey,
    queryFn: ({ pageParam }) => read(pageParam),
    initialPageParam: 0,
    getNextPageParam: next,
  });
  const { hasNextPage, isFetching, isError, fetchNextPage } = pages;
  useEffect(() => {
    if (hasNextPage && !isFetching && !isError) void fetchNextPage();
  }, [hasNextPage, isFetching, isError, fetchNextPage]);
  const data = useMemo(() => pages.data?.pages.flat(), [pages.data]);
  return { data, isPending: pages.isPending, isError: pages.isError, error: pages.error, refetch: pages.refetch };
}
