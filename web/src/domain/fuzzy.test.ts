import { describe, expect, it } from "vitest";

import { distance, likeness } from "./fuzzy";

describe("typing errors", () => {
  it("are counted letter by letter", () => {
    expect([
      distance("heron", "heron"),
      distance("heorn", "heron"),
      distance("hern", "heron"),
      distance("a", "abcdef"),
    ]).toEqual([0, 2, 1, 4]);
  });
  it("are forgiven in longer words and never in numbers", () => {
    expect(likeness("sandrling", "Sanderling 4")).toBeGreaterThan(0);
    expect(likeness("sanderling 4", "Sanderling 4")).toBe(1);
    expect(likeness("sanderling 2", "Sanderling 4")).toBe(0);
    expect(likeness("tv", "Gannet 50 tv 4K")).toBe(1);
    expect(likeness("ta", "Heron 8 tablet")).toBe(0.9);
    expect(likeness("xyz", "Heron 8 tablet")).toBe(0);
  });
  it("rank the right word before a similar one", () => {
    const ranked = ["Teal deck", "Heron 10", "Heron 8"].sort(
      (a, b) => likeness("heron 8", b) - likeness("heron 8", a),
    );
    expect(ranked[0]).toBe("Heron 8");
  });
});
