import { useInfiniteQuery } from "@tanstack/react-query";
import { useEffect } from "react";

/**
 * A long list, read page by page: what there is of it can be shown at once, the rest follows by itself.
 * `next` says where the following page begins; none after the last.
 */
export function usePages<Page>(
  queryKey: readonly unknown[],
  read: (after: number) => Promise<Page>,
  next: (page: Page) => number | undefined,
) {
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
  return { pages: pages.data?.pages, isPending: pages.isPending, error: pages.error, refetch: pages.refetch };
}
