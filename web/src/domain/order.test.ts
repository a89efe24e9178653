import { describe, expect, it, test } from "vitest";

import { moved, placeFor, putBefore } from "./order";

test("an entry is moved to another place, and the others close up", () => {
  expect(moved(["a", "b", "c", "d"], 3, 0)).toEqual(["d", "a", "b", "c"]);
  expect(moved(["a", "b", "c", "d"], 0, 2)).toEqual(["b", "c", "a", "d"]);
});

test("nothing is moved beyond the ends", () => {
  expect(moved(["a", "b"], 0, -1)).toEqual(["a", "b"]);
  expect(moved(["a", "b"], 1, 2)).toEqual(["a", "b"]);
});

const ROWS = [1, 2, 3, 4, 5].map((id) => ({ id }));
const ids = (rows: { id: number }[]) => rows.map(({ id }) => id);
const of = (...some: number[]) => new Set(some);

describe("what waits is put in another order", () => {
  it("goes before another row, or last, and keeps its own order", () => {
    expect(ids(putBefore(ROWS, of(4), 2))).toEqual([1, 4, 2, 3, 5]);
    expect(ids(putBefore(ROWS, of(5, 2), 1))).toEqual([2, 5, 1, 3, 4]);
    expect(ids(putBefore(ROWS, of(1, 3), null))).toEqual([2, 4, 5, 1, 3]);
  });

  it("stays where it is when it is put before itself, and comes first before a row that has gone", () => {
    expect(ids(putBefore(ROWS, of(3), 3))).toEqual([1, 2, 3, 4, 5]);
    expect(ids(putBefore(ROWS, of(3), 99))).toEqual([3, 1, 2, 4, 5]);
  });

  it("goes a row up or down with the arrow keys, and stays at the ends", () => {
    const after = (key: string, ...some: number[]) => {
      const place = placeFor(key, ROWS, of(...some));
      return place === undefined ? "nothing" : ids(putBefore(ROWS, of(...some), place));
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
