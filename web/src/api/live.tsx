import { useQueryClient } from "@tanstack/react-query";
import { createContext, type ReactNode, useContext, useEffect, useRef, useState } from "react";

import { under } from "./base";
import type { Schemas } from "./client";
import { keys } from "./queries";

type Counts = Schemas["Counts"];

export interface LiveState {
  counts: Counts | null;
  connected: boolean;
}

const LiveContext = createContext<LiveState>({ counts: null, connected: true });

export const useLive = () => useContext(LiveContext);

/** Keeps what is on screen current: one event stream, which fills or ages the query cache. */
export function LiveProvider({ children }: { children: ReactNode }) {
  const cache = useQueryClient();
  const marks = useRef<Schemas["Marks"] | null>(null);
  const [state, setState] = useState<LiveState>({ counts: null, connected: true });

  useEffect(() => {
    const stale = seldom((place) => void cache.invalidateQueries({ queryKey: [place] }));
    const stream = new EventSource(under("/api/live"));
    stream.addEventListener("live", (event) => {
      const live: Schemas["Live"] = JSON.parse(String(event.data));
      cache.setQueryData<Schemas["Worklist"]>(
        keys.worklist,
        (old) =>
          old && {
            ...old,
            jobs: old.jobs.map((job) => live.running.find(({ id }) => id === job.id) ?? job),
            total: live.total,
          },
      );
      const before = marks.current;
      marks.current = live.marks;
      for (const place of ["worklist", "shelf", "bench", "outbox", "household", "home"] as const) {
        // on the first event too: what was read before the stream began may be old already
        if (before?.[place] !== live.marks[place]) stale(place);
      }
      if (before && before.balance !== live.marks.balance) {
        void cache.invalidateQueries({ queryKey: keys.table });
        void cache.invalidateQueries({ queryKey: ["bench", "sheet"] });
      }
      setState({ counts: live.counts, connected: true });
    });
    stream.onerror = () => {
      setState((old) => ({ ...old, connected: false }));
      // it says not why; perhaps the passphrase is another one now
      dispatchEvent(new Event("rheon:signed-out"));
    };
    return () => stream.close();
  }, [cache]);

  return <LiveContext value={state}>{children}</LiveContext>;
}

const REST_MS = 1000;

/**
 * Calls at once, and then at most once a second for each name, the last one never left out: a scan of many
 * sources changes the Shelf all the time.
 */
function seldom(call: (name: string) => void): (name: string) => void {
  const resting = new Map<string, boolean>();
  const run = (name: string) => {
    call(name);
    resting.set(name, false);
    setTimeout(() => {
      const again = resting.get(name);
      resting.delete(name);
      if (again) run(name);
    }, REST_MS);
  };
  return (name) => (resting.has(name) ? resting.set(name, true) : run(name));
}
