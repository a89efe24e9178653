import { useCallback, useEffect, useMemo, useRef, useState } from "react";

import { canMake, type Cell, cellKey, rectangle, type Table } from "./cells";

/** A device whose every cell is meant, or all devices: also the cells that are not planned yet. */
export type Whole = number | "all";

export interface Picking {
  picked: ReadonlySet<string>;
  pick: (cells: readonly Cell[], on: boolean) => void;
  /** Like `pick`, and with `wide` everything between the cell picked last and this one. */
  pickTo: (cells: readonly Cell[], on: boolean, wide: boolean) => void;
  /** Every cell of a device, or all there are; what is planned later is picked as it comes. */
  pickWhole: (whole: Whole, on: boolean) => void;
  clear: () => void;
}

export const NOTHING_WHOLE: ReadonlySet<Whole> = new Set();

const belongs = (cell: Cell, whole: Whole) => whole === "all" || cell.target_id === whole;

/**
 * Which cells are picked, and how one pick becomes many. `wholes` are kept outside, since they decide what
 * is planned.
 */
export function usePicking(
  table: Table | undefined,
  cells: ReadonlyMap<string, Cell>,
  wholes: ReadonlySet<Whole>,
  setWholes: (wholes: ReadonlySet<Whole>) => void,
): Picking {
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const anchor = useRef<string | null>(null);
  const known = useRef<ReadonlyMap<string, Cell>>(new Map());
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
  useEffect(() => {
    const before = known.current;
    known.current = cells;
    // only what is new: whoever has unticked a cell since means it
    const come = [...cells.values()].filter(
      (cell) =>
        !before.has(cellKey(cell)) && canMake(cell) && [...wholes].some((whole) => belongs(cell, whole)),
    );
    if (come.length) pick(come, true);
  }, [cells, wholes, pick]);
  const pickTo = useCallback(
    (chosen: readonly Cell[], on: boolean, wide: boolean) => {
      const last = chosen.at(-1);
      if (!last) return;
      const key = cellKey(last);
      const between =
        wide && anchor.current && table
          ? rectangle(table.titles, table.targets, cells, anchor.current, key)
          : [];
      pick([...chosen, ...between], on);
      anchor.current = cellKey(chosen[0] ?? last);
    },
    [cells, pick, table],
  );
  const pickWhole = useCallback(
    (whole: Whole, on: boolean) => {
      const next = new Set(wholes);
      if (on) next.add(whole);
      else for (const one of wholes) if (whole === "all" || one === whole || one === "all") next.delete(one);
      setWholes(next);
      pick(
        [...cells.values()].filter((cell) => canMake(cell) && belongs(cell, whole)),
        on,
      );
    },
    [cells, pick, setWholes, wholes],
  );
  const clear = useCallback(() => {
    setWholes(NOTHING_WHOLE);
    setPicked(new Set());
  }, [setWholes]);
  return useMemo(
    () => ({ picked, pick, pickTo, pickWhole, clear }),
    [picked, pick, pickTo, pickWhole, clear],
  );
}
