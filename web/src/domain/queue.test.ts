import { describe, expect, it } from "vitest";

import { moved, placeFor } from "./queue";

const ROWS = [1, 2, 3, 4, 5].map((id) => ({ id }));
const ids = (rows: { id: number }[]) => rows.map(({ id }) => id);
const of = (...some: number[]) => new Set(some);

describe("what waits is put in another order", () => {
  it("goes before another row, or last, and keeps its own order", () => {
    expect(ids(moved(ROWS, of(4), 2))).toEqual([1, 4, 2, 3, 5]);
    expect(ids(moved(ROWS, of(5, 2), 1))).toEqual([2, 5, 1, 3, 4]);
    expect(ids(moved(ROWS, of(1, 3), null))).toEqual([2, 4, 5, 1, 3]);
  });

  it("stays where it is when it is put before itself, and comes first before a row that has gone", () => {
    expect(ids(moved(ROWS, of(3), 3))).toEqual([1, 2, 3, 4, 5]);
    expect(ids(moved(ROWS, of(3), 99))).toEqual([3, 1, 2, 4, 5]);
  });

  it("goes a row up or down with the arrow keys, and stays at the ends", () => {
    const after = (key: string, ...some: number[]) => {
      const place = placeFor(key, ROWS, of(...some));
      return place === undefined ? "nothing" : ids(moved(ROWS, of(...some), place));
    };
    expect(after("ArrowUp", 3)).toEqual([1, 3, 2, 4, 5]);
    expect(after("ArrowUp", 1)).toEqual([1, 2, 3, 4, 5]);
    expect(after("ArrowDown", 3)).toEqual([1, 2, 4, 3, 5]);
    expect(after("ArrowDown", 5)).toEqual([1, 2, 3, 4, 5]);
    expect(after("ArrowDown", 4)).toEqual([1, 2, 3, 5, 4]);
    expect(after("ArrowUp", 3, 4)).toEqual([1, 3, 4, 2, 5]);
    expect(after("ArrowDown", 1, 2)).toEqual([3, 1, 2, 4, 5]);
    expect(after("Home", 4, 5)).toEqual([4, 5, 1, 2, 3]);
    expect(after("End", 1)).toEqual([2, 3, 4, 5, 1]);
    expect(after("x", 1)).toBe("nothing");
    expect(after("Home", 1, 2, 3, 4, 5)).toBe("nothing");
  });
});
