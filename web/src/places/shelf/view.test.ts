import { describe, expect, it } from "vitest";

import type { Schemas } from "../../api/client";
import { timeScale } from "../../domain/scales";
import { arrange, between, blocksOf, WHOLE } from "./view";

type Source = Schemas["Source"];

const title = (
  id: number,
  role: Schemas["Role"],
  duration_s: number,
  name = `Title ${id}`,
): Source["titles"][number] => ({
  id,
  number: id,
  name,
  duration_s,
  role,
  size_bytes: 1,
  chapters: [],
  reason: "",
  taken: "",
  taken_together: "",
  shares: [],
  gaps: [],
  part_of: null,
  part_count: 0,
  fault: id === 13 ? "scrambled" : null,
});

const source = (
  id: number,
  name: string,
  titles: Source["titles"],
  state: Source["state"] = "ready",
): Source => ({
  id,
  path: `/media/${name}`,
  name,
  label: name.toUpperCase(),
  kind: "dvd",
  form: "folder",
  size_bytes: 1,
  state,
  at_title: 0,
  title_count: 0,
  error_code: "",
  error_message: "",
  problems: [],
  drive: null,
  titles,
});

const shelf = [
  source(1, "Marram", [title(11, "feature", 5400), title(12, "extra", 90), title(13, "menu", 2)]),
  source(2, "Keepers 10", [title(21, "episode", 1500, "Keepers, the weir"), title(22, "episode", 1510)]),
  source(3, "Keepers 2", [], "failed"),
];

const ids = (sources: Source[]) => sources.map((entry) => [entry.id, ...entry.titles.map((one) => one.id)]);

describe("the view", () => {
  it("shows everything until something is asked for", () => {
    expect(arrange(shelf, WHOLE)).toEqual(shelf);
  });
  it("narrows by role, length and words over all sources", () => {
    expect(ids(arrange(shelf, { ...WHOLE, roles: ["episode"] }))).toEqual([[2, 21, 22]]);
    expect(ids(arrange(shelf, { ...WHOLE, longer: 60 }))).toEqual([
      [1, 11, 12],
      [2, 21, 22],
    ]);
    expect(ids(arrange(shelf, { ...WHOLE, text: "weir keep" }))).toEqual([[2, 21]]);
    expect(ids(arrange(shelf, { ...WHOLE, text: "keepers 2" }))).toEqual([[2, 22], [3]]);
    expect(arrange(shelf, { ...WHOLE, text: "nothing" })).toEqual([]);
  });
  it("sorts as people count", () => {
    expect(ids(arrange(shelf, { ...WHOLE, sort: "by name" })).map(([id]) => id)).toEqual([3, 2, 1]);
    expect(ids(arrange(shelf, { ...WHOLE, sort: "longest first" })).map(([id]) => id)).toEqual([1, 2, 3]);
  });
});

describe("blocks", () => {
  it("cut a source with very many titles into pieces of which only the first has its head", () => {
    const many = source(
      9,
      "Many",
      Array.from({ length: 1000 }, (_, index) => title(index + 100, "extra", 60 + index)),
    );
    const blocks = blocksOf([many, ...shelf], timeScale(5400));
    expect(blocks.filter((block) => block.head)).toHaveLength(4);
    expect(blocks.flatMap((block) => block.lanes.flatMap((lane) => lane.strips))).toHaveLength(1005);
    expect(Math.max(...blocks.map((block) => block.lanes.length))).toBeLessThanOrEqual(12);
  });
  it("give the range between two titles, without what can't be used", () => {
    const blocks = blocksOf(shelf, timeScale(5400));
    expect(between(blocks, 22, 11)).toEqual([11, 12, 21, 22]);
    expect(between(blocks, 404, 12)).toEqual([12]);
  });
});

describe("the zoomed scale", () => {
  it("shows a part of the whole and never leaves it", () => {
    const scale = timeScale(1000, 4, 5000);
    expect(scale.span).toBeCloseTo(260);
    expect(scale.from + scale.span).toBeCloseTo(scale.end);
    expect(scale.at(scale.from)).toBe(0);
    expect(scale.wide(scale.span)).toBe(100);
  });
});
