import type { ReactNode } from "react";

import { Button } from "./button";

/** A place with nothing in it yet: what belongs here and the first thing to do. */
export function Empty({
  title,
  children,
  action,
}: {
  title: string;
  children: ReactNode;
  action?: ReactNode;
}) {
  return (
    <div className="mx-auto flex max-w-md flex-col items-center px-6 py-20 text-center">
      <svg width="92" height="36" viewBox="0 0 92 36" fill="none" className="mb-5 text-mist-line" aria-hidden>
        {[6, 18, 30].map((y, index) => (
          <path
            key={y}
            d={`M2 ${y}c10-7 18-7 28 0s18 7 28 0 18-7 28 0`}
            stroke="currentColor"
            strokeWidth="2.5"
            strokeLinecap="round"
            strokeDasharray={index === 1 ? "2 7" : undefined}
          />
        ))}
      </svg>
      <h2 className="text-xl">{title}</h2>
      <p className="mt-2 mb-5 text-quiet">{children}</p>
      {action}
    </div>
  );
}

/** Something is on its way. */
export function Loading({ what }: { what: string }) {
  return (
    <div className="px-6 py-16 text-center text-quiet" role="status">
      <div className="mx-auto mb-4 h-2 w-48 reading rounded-full" />
      Reading {what} …
    </div>
  );
}

/** Something could not be read. */
export function Failed({
  error,
  onRetry,
  children = "Try again",
}: {
  error: Error;
  onRetry: () => void;
  children?: ReactNode;
}) {
  return (
    <div className="mx-auto max-w-md px-6 py-16 text-center" role="alert">
      <p className="mb-4 text-madder">{error.message}</p>
      <Button onClick={onRetry}>{children}</Button>
    </div>
  );
}

interface Query {
  isPending: boolean;
  error: Error | null;
  refetch: () => unknown;
}

/** While something is read, and where it could not be; nothing once it is there. */
export function NotYet({ query, what }: { query: Query; what: string }) {
  if (query.error) return <Failed error={query.error} onRetry={() => void query.refetch()} />;
  return query.isPending ? <Loading what={what} /> : null;
}
