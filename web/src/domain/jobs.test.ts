import { describe, expect, it } from "vitest";

import { byPlace } from "./jobs";

describe("the list", () => {
  it("shows each job at one place: what is made, what waits, or what ended", () => {
    const jobs = [
      { id: 1, state: "running", in_work: true },
      { id: 2, state: "paused", in_work: true },
      { id: 3, state: "waiting", in_work: false },
      { id: 4, state: "paused", in_work: false },
      { id: 5, state: "done", in_work: false },
      { id: 6, state: "interrupted", in_work: false },
    ];
    const ids = Object.entries(byPlace(jobs)).map(([place, rows]) => [place, rows.map(({ id }) => id)]);
    expect(ids).toEqual([
      ["inWork", [1, 2]],
      ["atRest", [3, 4]],
      ["ended", [5, 6]],
    ]);
  });
});
