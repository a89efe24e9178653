import { describe, expect, it } from "vitest";

import { durationText, exactText, momentText, spanText } from "./durations";
import { packLanes } from "./packing";
import { evenStarts, rangesFrom } from "./ranges";
import { sizeScale, timeScale } from "./scales";
import { sizeText } from "./sizes";

describe("durations", () => {
  it("are minutes and seconds below an hour, hours and minutes from there", () => {
    expect([0, 59.6, 247, 3599.4, 3600, 5538.2].map(durationText)).toEqual([
      "0:00",
      "1:00",
      "4:07",
      "59:59",
      "1 h 0 min",
      "1 h 32 min",
    ]);
  });
  it("are said to the thousandth where that counts, without empty digits", () => {
    expect([0, 9.96, 59.9996, 3723.5].map(exactText)).toEqual(["0:00", "0:09.96", "1:00", "1:02:03.5"]);
  });
  it("of work are said roughly and never as nothing", () => {
    expect([0.2, 89, 91, 4320].map(spanText)).toEqual(["1 s", "89 s", "2 min", "1 h 12 min"]);
  });
  it("as moments keep their seconds", () => {
    expect([41, 5222].map(momentText)).toEqual(["0:41", "1:27:02"]);
  });
});

describe("sizes", () => {
  it("count in powers of ten with three figures", () => {
    expect([900, 3_403_446, 712e6, 1.38e9, 41e9].map(sizeText)).toEqual([
      "1 kB",
      "3.40 MB",
      "712 MB",
      "1.38 GB",
      "41.0 GB",
    ]);
  });
});

describe("the time scale", () => {
  it("has few marks and holds the longest strip, whatever its length", () => {
    for (const longest of [1, 60, 180, 5400, 40_000]) {
      const scale = timeScale(longest);
      expect(scale.marks.length).toBeLessThanOrEqual(7);
      expect(scale.at(longest)).toBeLessThanOrEqual(100);
    }
  });
});

describe("lanes", () => {
  it("never overlap and keep the order", () => {
    const strips = [100, 20, 5, 60, 1].map((duration_s, id) => ({ id, duration_s }));
    const lanes = packLanes(strips, 110, 8, 2);
    expect(lanes.flat().map((placed) => placed.strip.id)).toEqual([0, 1, 2, 3, 4]);
    for (const lane of lanes) {
      for (const [index, placed] of lane.entries()) {
        const before = lane[index - 1];
        if (before) expect(placed.start).toBeGreaterThanOrEqual(before.start + before.width);
        expect(placed.start + placed.width).toBeLessThanOrEqual(110);
      }
    }
  });
});

describe("a scale of sizes", () => {
  it("holds the largest size, and bounds that are near it", () => {
    const { at, near } = sizeScale(80, [100, 1e9]);
    expect(near).toEqual([100]);
    expect([at(0), Math.round(at(100))]).toEqual([0, 97]);
    expect(at(80)).toBeLessThan(at(100));
    expect(sizeScale(0, []).at(0)).toBe(0);
  });
});

describe("ranges of chapters", () => {
  it("reach from each start to the next, whatever the order", () => {
    expect(rangesFrom([5, 1, 5, 40], 8)).toEqual([
      { first: 1, last: 4 },
      { first: 5, last: 8 },
    ]);
    expect(rangesFrom(evenStarts(3, 8), 8)).toEqual([
      { first: 1, last: 3 },
      { first: 4, last: 6 },
      { first: 7, last: 8 },
    ]);
    expect(rangesFrom([], 8)).toEqual([]);
  });
});
