import { describe, expect, it } from "vitest";

import { confirmed, doubtsOf, filledDown, numberedUp, replaced, type Row, tagsLine, takenBack } from "./tags";

const tag = (value: string, by_hand = false, sure = 0.9) => ({ value, by_hand, sure, reason: "" });

function row(title_id: number, kind: string, said: Row["tags"]): Row {
  return {
    title_id,
    title_name: `Title ${title_id}`,
    source_name: "Disc",
    file_name: "x",
    tags: { kind: tag(kind), ...said },
  };
}

const ROWS = [
  row(1, "episode", { show: tag("Tide Watch"), episode: tag("7"), title: tag("Slack water", true) }),
  row(2, "extra", { title: tag("The Water Birds") }),
  row(3, "episode", { show: tag("tide watch"), episode: tag("1") }),
  row(4, "episode", { show: tag("Tide Watch"), episode: tag("9", false, 0.3), season: tag("", true, 0) }),
];

describe("many titles at once", () => {
  it("gives a value to those below of the same kind that lack it", () => {
    expect(filledDown(ROWS, 0, "show")).toEqual([{ title_id: 3, tag: "show", value: "Tide Watch" }]);
    expect(filledDown(ROWS, 3, "show")).toEqual([]);
    expect(filledDown(ROWS, 9, "show")).toEqual([]);
  });

  it("counts on from a number, and from nothing else", () => {
    expect(numberedUp(ROWS, 0, "episode")).toEqual([{ title_id: 3, tag: "episode", value: "8" }]);
    expect(numberedUp(ROWS, 0, "title")).toEqual([]);
  });

  it("replaces a text as it is written, not as a pattern", () => {
    expect(replaced(ROWS, ["title"], "WATER", "$& (1)")).toEqual([
      { title_id: 1, tag: "title", value: "Slack $& (1)" },
      { title_id: 2, tag: "title", value: "The $& (1) Birds" },
    ]);
    expect(replaced(ROWS, ["title"], ".", "x")).toEqual([]);
    expect(replaced(ROWS, ["title"], "", "x")).toEqual([]);
  });

  it("takes back to what was set, or to what was found", () => {
    const changes = [1, 2, 4].map((title_id) => ({ title_id, tag: "title", value: "x" }));
    expect(takenBack(ROWS, changes).map(({ value }) => value)).toEqual(["Slack water", null, null]);
  });

  it("counts what is not sure and not set by hand", () => {
    expect(ROWS.map((one) => doubtsOf(one, 0.6))).toEqual([0, 0, 0, 1]);
  });

  it("takes a doubt for right in all of a series that have it", () => {
    const season = tag("1", false, 0.5);
    const rows = [1, 2, 3].map((id) => row(id, "episode", { show: tag(id < 3 ? "A" : "B"), season }));
    expect(confirmed(rows, 0, "season", 0.6).map(({ title_id }) => title_id)).toEqual([1, 2]);
    expect(confirmed(rows, 0, "season", 0.4)).toEqual([]);
    expect(confirmed(rows, 0, "title", 0.6)).toEqual([]);
  });

  it("tells tags in a line", () => {
    expect(tagsLine({ kind: "episode", show: "Tide Watch", season: "1", episode: "2", year: "" })).toBe(
      "episode · Tide Watch · S01E02",
    );
  });
});
