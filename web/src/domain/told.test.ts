import { describe, expect, it } from "vitest";

import { followed, type Night, toldText } from "./told";

const through = (...counts: [to_do: number, outputs: number][]) => {
  let night: Night = null;
  return counts.map(([to_do, outputs]) => {
    const next = followed(night, { to_do, outputs });
    night = next.night;
    return next.made;
  });
};

describe("the end of a night", () => {
  it("is told once, with what was made since its beginning", () => {
    expect(through([0, 4], [3, 4], [2, 5], [5, 5], [1, 9], [0, 10], [0, 10])).toEqual([
      null,
      null,
      null,
      null,
      null,
      6,
      null,
    ]);
  });

  it("is told too where the page came in the middle, and where files went meanwhile", () => {
    expect(through([2, 7], [0, 9])).toEqual([null, 2]);
    expect(through([2, 7], [0, 5])).toEqual([null, 0]);
  });

  it("is said in a sentence", () => {
    expect([0, 1, 2].map(toldText)).toEqual([
      "Nothing is left to make.",
      "All is made: 1 file.",
      "All is made: 2 files.",
    ]);
  });
});
