// @vitest-environment jsdom
import { act, renderHook } from "@testing-library/react";
import { useState } from "react";
import { describe, expect, it } from "vitest";

import { type Cell, cellKey, type Table } from "./cells";
import { NOTHING_WHOLE, usePicking, type Whole } from "./picking";

const cell = (title_id: number, target_id: number, verdict: Cell["verdict"] = "convert"): Cell => ({
  title_id,
  target_id,
  verdict,
  reason: "",
  estimate: null,
  surround: false,
  same_as: null,
  by_hand: false,
  broken: 0,
  too_large: false,
});
const ids = (count: number) => Array.from({ length: count }, (_, at) => ({ id: at + 1 }));
// only what picking reads of it
const table = { titles: ids(3), targets: ids(3) } as unknown as Table;
const mapOf = (...cells: Cell[]) => new Map(cells.map((one) => [cellKey(one), one]));
const grid = mapOf(...[1, 2, 3].flatMap((title) => [1, 2, 3].map((target) => cell(title, target))));

function picking(first: ReadonlyMap<string, Cell>) {
  return renderHook(
    ({ cells }) => {
      const [wholes, setWholes] = useState<ReadonlySet<Whole>>(NOTHING_WHOLE);
      return { ...usePicking(table, cells, wholes, setWholes), wholes };
    },
    { initialProps: { cells: first } },
  );
}

describe("picking cells", () => {
  it("picks everything between two with Shift, however they lie", () => {
    const { result } = picking(grid);
    act(() => result.current.pickTo([cell(3, 3)], true, false));
    act(() => result.current.pickTo([cell(2, 2)], true, true));
    expect([...result.current.picked].sort()).toEqual(["2:2", "2:3", "3:2", "3:3"]);
  });

  it("picks what a whole device gets later, but not what somebody has unticked", () => {
    const { result, rerender } = picking(mapOf(cell(1, 1), cell(1, 2)));
    act(() => result.current.pickWhole(1, true));
    expect([...result.current.picked]).toEqual(["1:1"]);
    act(() => result.current.pick([cell(1, 1)], false));
    rerender({ cells: mapOf(cell(1, 1), cell(1, 2), cell(2, 1), cell(2, 2), cell(3, 1, "plays")) });
    expect([...result.current.picked]).toEqual(["2:1"]);
  });

  it("takes all back with one device taken out of everything", () => {
    const { result } = picking(grid);
    act(() => result.current.pickWhole("all", true));
    expect(result.current.picked.size).toBe(9);
    act(() => result.current.pickWhole(2, false));
    expect(result.current.picked.size).toBe(6);
    expect([...result.current.wholes]).toEqual([]);
  });

  it("lets everything go at once", () => {
    const { result } = picking(grid);
    act(() => result.current.pickWhole("all", true));
    act(() => result.current.clear());
    expect(result.current.picked.size + result.current.wholes.size).toBe(0);
  });
});
