import { describe, expect, it } from "vitest";

import { type FieldSpec, outOfRange, shown, stored } from "./profile-values";

const rate: FieldSpec = {
  key: "max_bitrate_bps",
  label: "",
  help: "",
  kind: "number",
  scale: 1e6,
  range: [0.1, 400],
};
const list: FieldSpec = { key: "profiles", label: "", help: "", kind: "list" };

describe("the fields of a profile", () => {
  it("shows and stores the same value", () => {
    for (const [spec, value] of [
      [rate, 2_500_000],
      [list, ["main", "high"]],
      [list, [8, 10]],
    ] as const)
      expect(stored(spec, shown(spec, value))).toEqual(value);
  });

  it("stores nothing for an empty field, and what is no number as it was typed", () => {
    expect(stored(rate, " ")).toBeUndefined();
    expect(stored(rate, "2,5")).toBe(2_500_000);
    expect(stored(rate, "fast")).toBe("fast");
  });

  it("says what a number can be", () => {
    expect(outOfRange(rate, "900")).toBe("It can be 0.1 to 400.");
    expect(outOfRange(rate, "")).toBe("");
    expect(outOfRange(rate, "12")).toBe("");
  });
});
