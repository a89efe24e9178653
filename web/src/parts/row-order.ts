import { useCallback, useLayoutEffect, useMemo, useRef, useState } from "react";

import { placeFor, putBefore } from "../domain/order";

type Ids = ReadonlySet<number>;

interface Row {
  id: number;
}

/** The row that something dragged would be put before or (`after`) behind. */
interface Over {
  id: number;
  after: boolean;
}

export interface RowActs {
  /** Whether the key means anything here. */
  key: (id: number, key: string) => boolean;
  drag: (id: number | null) => void;
  aim: (over: Over) => void;
  drop: () => void;
}

interface Now {
  rows: readonly Row[];
  put: (ids: Ids, before: number | null) => void;
  meant: (id: number) => Ids;
  over: Over | null;
  dragged: number | null;
}

/**
 * What of a list is dragged where, and what keys make of it; `put` puts rows before another one, or last (`null`).
 * `meant` are those that move with a row. The acts stay the same, so that rows need not be drawn again for them.
 */
export function useRowOrder(
  rows: readonly Row[],
  put: (ids: Ids, before: number | null) => void,
  meant: (id: number) => Ids = (id) => new Set([id]),
) {
  const [over, setOver] = useState<Over | null>(null);
  const now = useRef<Now>({ rows, put, meant, over, dragged: null });
  useLayoutEffect(() => {
    Object.assign(now.current, { rows, put, meant, over });
  });
  const move = useCallback((ids: Ids, key: string) => {
    const before = placeFor(key, now.current.rows, ids);
    if (before === undefined) return false;
    now.current.put(ids, before);
    // the next key may come before the list is drawn anew
    now.current.rows = putBefore(now.current.rows, ids, before);
    return true;
  }, []);
  const acts = useMemo<RowActs>(
    () => ({
      key: (id, key) => move(now.current.meant(id), key),
      drag: (id) => {
        now.current.dragged = id;
        if (id === null) setOver(null);
      },
      aim: (aimed) => {
        const { dragged, over: old } = now.current;
        if (dragged !== null && (old?.id !== aimed.id || old.after !== aimed.after)) setOver(aimed);
      },
      drop: () => {
        const { rows, over: aimed, dragged } = now.current;
        setOver(null);
        if (dragged === null || !aimed) return;
        const index = rows.findIndex((row) => row.id === aimed.id) + (aimed.after ? 1 : 0);
        now.current.put(now.current.meant(dragged), rows[index]?.id ?? null);
      },
    }),
    [move],
  );
  return { markOf: (id: number) => markOf(over, id), acts, move };
}

const markOf = (over: Over | null, id: number) => {
  if (over?.id !== id) return "none";
  return over.after ? "below" : "above";
};
