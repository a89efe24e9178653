import { describe, expect, it } from "vitest";

import { fidelityScale, fidelityText } from "./fidelity";

describe("a scale of fidelity", () => {
  it("holds all that was measured between marks in even steps", () => {
    const { marks, up } = fidelityScale([
      { mean: 93.2, worst: 81.4 },
      { mean: 97.9, worst: 90 },
    ]);
    expect(marks).toEqual([80, 85, 90, 95, 100]);
    expect(up(80)).toBe(0);
    expect(up(97.9)).toBeGreaterThan(up(93.2));
    expect(up(100)).toBeLessThanOrEqual(100);
  });

  it("has a height where all is the same", () => {
    const { marks, up } = fidelityScale([{ mean: 100, worst: 100 }]);
    expect(marks).toEqual([100, 100.5]);
    expect(up(100)).toBe(0);
  });

  it("is said with its unit where it has one", () => {
    expect([fidelityText(97.25, ""), fidelityText(22.2, "dB")]).toEqual(["97.3", "22.2 dB"]);
  });
});
