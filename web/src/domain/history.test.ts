import { describe, expect, it } from "vitest";

import { comparedText, momentOf } from "./history";

describe("how what was made came out", () => {
  const total = { compared_s: 90, expected_s: 120, compared_bytes: 1040, expected_bytes: 1000 };

  it("is told beside what had been expected", () => {
    expect(comparedText(total)).toBe(
      "All together took 75 % of the time that was expected, and 104 % of the size.",
    );
  });

  it("is not told where nothing had been expected", () => {
    expect(comparedText({ ...total, expected_s: 0 })).toBe("");
    expect(comparedText({ ...total, expected_bytes: 0 })).toBe("");
  });
});

describe("a moment of the history", () => {
  it("has its year where that is another one", () => {
    const now = new Date(2026, 1, 3);
    expect(momentOf("2026-01-02T12:00:00", now)).not.toContain("2026");
    expect(momentOf("2025-01-02T12:00:00", now)).toContain("2025");
  });
});
