import { describe, expect, it } from "vitest";

import { type Cell, runsOf, type Table, totalOf } from "./cells";

const estimate = { size_bytes: 10, size_low_bytes: 8, size_high_bytes: 12, time_s: 4, time_low_s: 3, time_high_s: 6 };
const cell = (device_id: number, same_as: number | null = null): Cell => ({
  title_id: 1,
  device_id,
  verdict: "convert",
  reason: "",
  estimate,
  surround: false,
  same_as,
  by_hand: false,
});

describe("the crossing table", () => {
  const devices = [1, 2, 3, 4].map((id) => ({ id, name: "", kind: "phone" as const, model: "", detail: "" }));

  it("merges only neighbours that one file serves", () => {
    const table: Table = { balance: "even", titles: [], devices, cells: [cell(1), cell(2, 1), cell(3), cell(4, 1)] };
    expect(runsOf(table, 1).map((run) => run.cells.map((entry) => entry.device_id))).toEqual([[1, 2], [3], [4]]);
  });

  it("counts a file once, however many devices it serves", () => {
    expect(totalOf([cell(1), cell(2, 1), cell(3)])).toEqual({ files: 2, bytes: 20, seconds: 8, low: 6, high: 12 });
  });
});
