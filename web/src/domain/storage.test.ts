import { describe, expect, it } from "vitest";

import { storageParts } from "./storage";

const facts = { total_bytes: 100, free_bytes: 60, there_bytes: 25, coming_bytes: 20, kept_free_bytes: 5 };

describe("the bar of a storage", () => {
  it("shows all of it, and nothing twice", () => {
    for (const picked of [0, 10, 30, 400]) {
      const parts = storageParts(facts, picked);
      expect(parts.reduce((sum, { bytes }) => sum + bytes, 0)).toBe(100);
    }
    expect(storageParts(facts, 10)).toEqual([
      { part: "others", bytes: 15 },
      { part: "there", bytes: 25 },
      { part: "coming", bytes: 20 },
      { part: "picked", bytes: 10 },
      { part: "free", bytes: 25 },
      { part: "kept", bytes: 5 },
    ]);
  });

  it("never goes beyond what there is", () => {
    expect(storageParts({ ...facts, there_bytes: 90, coming_bytes: 90 }, 9)).toEqual([
      { part: "there", bytes: 40 },
      { part: "coming", bytes: 60 },
    ]);
  });

  it("is not drawn for a place that does not say how large it is", () => {
    expect(storageParts({ ...facts, total_bytes: null }, 0)).toEqual([]);
  });
});
