import { describe, expect, it } from "vitest";

import { type Cell, type Target, chunked, inColumns, rectangle, type Row, runsOf, totalOf } from "./cells";

const estimate = {
  size_bytes: 10,
  size_low_bytes: 8,
  size_high_bytes: 12,
  time_s: 4,
  time_low_s: 3,
  time_high_s: 6,
};
const cell = (target_id: number, same_as: number | null = null, title_id = 1): Cell => ({
  title_id,
  target_id,
  verdict: "convert",
  reason: "",
  estimate,
  surround: false,
  same_as,
  by_hand: false,
  broken: 0,
  too_large: false,
});

describe("the crossing table", () => {
  const devices: Target[] = [1, 2, 3, 4].map((id) => ({
    id,
    name: "",
    kind: "device",
    device_kind: "phone",
    device_id: id,
    model: "",
    detail: "",
    free_bytes: null,
    largest_file_bytes: null,
    used: 0,
  }));
  const titles: Row[] = [1, 2, 3].map((id) => ({
    id,
    name: "",
    role: "episode",
    duration_s: 1,
    size_bytes: 1,
    detail: "",
  }));

  it("merges only neighbours that one file serves", () => {
    const cells = [cell(1), cell(2, 1), cell(3), cell(4, 1)];
    expect(runsOf(devices, cells).map((run) => run.cells.map((entry) => entry.target_id))).toEqual([
      [1, 2],
      [3],
      [4],
    ]);
  });

  it("counts a file once, however many devices it serves", () => {
    expect(totalOf([cell(1), cell(2, 1), cell(3)])).toEqual({
      files: 2,
      bytes: 20,
      largest: 10,
      seconds: 8,
      low: 6,
      high: 12,
    });
  });

  it("picks a rectangle between two corners, without what can't be made", () => {
    const cells = new Map(
      titles.flatMap((row) =>
        devices.map((column) => [`${row.id}:${column.id}`, cell(column.id, null, row.id)] as const),
      ),
    );
    cells.set("2:2", { ...cell(2, null, 2), verdict: "plays" });
    const found = rectangle(titles, devices, cells, "3:3", "2:1").map(
      (entry) => `${entry.title_id}:${entry.target_id}`,
    );
    expect(found).toEqual(["2:1", "2:3", "3:1", "3:2", "3:3"]);
    expect(rectangle(titles, devices, cells, "9:1", "1:1")).toEqual([]);
  });

  it("draws only the runs that touch the columns in view", () => {
    const runs = runsOf(devices, [cell(1), cell(2, 1), cell(3), cell(4)]);
    const { before, runs: shown, after } = inColumns(runs, 1, 3);
    expect([before, shown.map((run) => run.span), after]).toEqual([0, [2, 1], 1]);
    expect(inColumns(runs, 3, 4).before).toBe(3);
  });

  it("cuts rows into pieces", () => {
    expect(chunked([1, 2, 3, 4, 5], 2)).toEqual([[1, 2], [3, 4], [5]]);
  });
});
