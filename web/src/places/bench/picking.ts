import { useCallback, useMemo, useRef, useState } from "react";

import { type Cell, cellKey, rectangle, type Table } from "./cells";

export interface Picking {
  picked: ReadonlySet<string>;
  pick: (cells: readonly Cell[], on: boolean) => void;
  /** Like `pick`, and with `wide` everything between the cell picked last and this one. */
  pickTo: (cells: readonly Cell[], on: boolean, wide: boolean) => void;
  clear: () => void;
}

/** Which cells are picked, and how one pick becomes many. */
export function usePicking(table: Table | undefined, cells: ReadonlyMap<string, Cell>): Picking {
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const anchor = useRef<string | null>(null);
  const pick = useCallback((chosen: readonly Cell[], on: boolean) => {
    setPicked((old) => {
      const next = new Set(old);
      for (const cell of chosen) {
        if (on) next.add(cellKey(cell));
        else next.delete(cellKey(cell));
      }
      return next;
    });
  }, []);
  const pickTo = useCallback(
    (chosen: readonly Cell[], on: boolean, wide: boolean) => {
      const last = chosen.at(-1);
      if (!last) return;
      const key = cellKey(last);
      const between = wide && anchor.current && table ? rectangle(table.titles, table.devices, cells, anchor.current, key) : [];
      pick([...chosen, ...between], on);
      anchor.current = cellKey(chosen[0] ?? last);
    },
    [cells, pick, table],
  );
  const clear = useCallback(() => setPicked(new Set()), []);
  return useMemo(() => ({ picked, pick, pickTo, clear }), [picked, pick, pickTo, clear]);
}
