import { useCallback, useLayoutEffect, useMemo, useRef, useState } from "react";

import type { Schemas } from "../../api/client";
import { useMoveJobs } from "../../api/worklist";
import { type RowActs, useRowOrder } from "../../parts/row-order";

type Job = Schemas["Job"];

export interface Acts extends RowActs {
  chooseAll: (some: readonly { id: number }[], on: boolean) => void;
  choose: (id: number, on: boolean, range: boolean) => void;
}

interface Now {
  shown: Job[];
  chosen: ReadonlySet<number>;
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
  // read when something happens, so that rows need not be drawn again for them
  const now = useRef<Now>({ shown, chosen, anchor: null });
  useLayoutEffect(() => {
    Object.assign(now.current, { shown, chosen });
  });
  const meant = useCallback(
    (id: number): ReadonlySet<number> => (now.current.chosen.has(id) ? now.current.chosen : new Set([id])),
    [],
  );
  const rows = useRowOrder(jobs, (ids, before) => mutate({ ids, before }), meant);
  const acts = useMemo<Acts>(
    () => ({
      ...rows.acts,
      choose: (id, on, range) => {
        const { shown: all, anchor } = now.current;
        const [one, other] = [anchor, id].map((end) => all.findIndex((row) => row.id === end));
        const wide = range && one !== undefined && other !== undefined && one >= 0;
        const meantRows = wide ? all.slice(Math.min(one, other), Math.max(one, other) + 1) : [{ id }];
        now.current.anchor = id;
        setChosen((old) => withRows(old, meantRows, on));
      },
      chooseAll: (some, on) => setChosen((old) => withRows(old, some, on)),
    }),
    [rows.acts],
  );
  return { chosen, markOf: rows.markOf, acts, move: rows.move, clear: () => setChosen(new Set()), error };
}
