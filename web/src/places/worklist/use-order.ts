import { useCallback, useLayoutEffect, useMemo, useRef, useState } from "react";

import type { Schemas } from "../../api/client";
import { useMoveJobs } from "../../api/worklist";
import { placeFor } from "../../domain/order";

type Job = Schemas["Job"];

interface Reach {
  chosen: ReadonlySet<number>;
  /** The row that something dragged would be put before or (`after`) behind. */
  over: { id: number; after: boolean } | null;
}

export interface Acts {
  chooseAll: (some: readonly { id: number }[], on: boolean) => void;
  choose: (id: number, on: boolean, range: boolean) => void;
  key: (id: number, key: string) => boolean;
  drag: (id: number | null) => void;
  aim: (over: Reach["over"]) => void;
  drop: () => void;
}

interface Now extends Reach {
  jobs: Job[];
  shown: Job[];
  dragged: number | null;
  /** The row that was chosen last: with Shift, all up to it are meant. */
  anchor: number | null;
}

function withRows(old: ReadonlySet<number>, rows: readonly { id: number }[], on: boolean) {
  const ids = rows.map(({ id }) => id);
  return on ? new Set([...old, ...ids]) : new Set([...old].filter((id) => !ids.includes(id)));
}

/** Which rows are chosen, what is dragged where, and what becomes of it; `shown` may stand in another order. */
export function useOrder(jobs: Job[], shown: Job[]) {
  const { mutate, error } = useMoveJobs();
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const [over, setOver] = useState<Reach["over"]>(null);
  // read when something happens, so that rows need not be drawn again for them
  const now = useRef<Now>({ jobs, shown, chosen, over, dragged: null, anchor: null });
  useLayoutEffect(() => {
    Object.assign(now.current, { jobs, shown, chosen, over });
  });
  const meant = useCallback(
    (id: number): ReadonlySet<number> => (now.current.chosen.has(id) ? now.current.chosen : new Set([id])),
    [],
  );
  const move = useCallback(
    (ids: ReadonlySet<number>, key: string) => {
      const before = placeFor(key, now.current.jobs, ids);
      if (before === undefined) return false;
      mutate({ ids, before });
      return true;
    },
    [mutate],
  );
  const acts = useMemo<Acts>(
    () => ({
      choose: (id, on, range) => {
        const { shown: rows, anchor } = now.current;
        const [one, other] = [anchor, id].map((end) => rows.findIndex((row) => row.id === end));
        const wide = range && one !== undefined && other !== undefined && one >= 0;
        const meantRows = wide ? rows.slice(Math.min(one, other), Math.max(one, other) + 1) : [{ id }];
        now.current.anchor = id;
        setChosen((old) => withRows(old, meantRows, on));
      },
      chooseAll: (some, on) => setChosen((old) => withRows(old, some, on)),
      key: (id, key) => move(meant(id), key),
      drag: (id) => {
        now.current.dragged = id;
        if (id === null) setOver(null);
      },
      aim: (aimed) => {
        const { dragged, over: old } = now.current;
        if (dragged !== null && (old?.id !== aimed?.id || old?.after !== aimed?.after)) setOver(aimed);
      },
      drop: () => {
        const { jobs: rows, over: aimed, dragged } = now.current;
        setOver(null);
        if (dragged === null || !aimed) return;
        const index = rows.findIndex((row) => row.id === aimed.id) + (aimed.after ? 1 : 0);
        mutate({ ids: meant(dragged), before: rows[index]?.id ?? null });
      },
    }),
    [meant, move, mutate],
  );
  return { chosen, over, acts, move, clear: () => setChosen(new Set()), error };
}
