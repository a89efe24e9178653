import { describe, expect, it } from "vitest";

import { laidAhead } from "./ahead";

const jobs = [30, 10, null, 25].map((left_s, id) => ({ id, left_s }));

describe("the time ahead", () => {
  it("has one job behind the other where one is made at a time", () => {
    const { laid, ends_s } = laidAhead(jobs, 1);
    expect(laid.map(({ lane, start_s }) => [lane, start_s])).toEqual([
      [0, 0],
      [0, 30],
      [0, 40],
      [0, 40],
    ]);
    expect(ends_s).toEqual([65]);
  });

  it("has each job in the lane that is free first", () => {
    const { laid, ends_s } = laidAhead(jobs, 2);
    expect(laid.map(({ lane, start_s }) => [lane, start_s])).toEqual([
      [0, 0],
      [1, 0],
      [1, 10],
      [1, 10],
    ]);
    expect(ends_s).toEqual([30, 35]);
    expect(laidAhead([], 3)).toEqual({ laid: [], ends_s: [0, 0, 0] });
  });
});
