import { expect, test } from "vitest";

import { codecsText, costText, whyNot } from "./hardware";

const H264 = { codec: "H.264", ten_bits: false, cost: null };
const HEVC = { ...H264, codec: "HEVC", ten_bits: true };

test("what a chip makes, and with how many bits", () => {
  expect(codecsText([H264, HEVC])).toBe("H.264; HEVC, also with ten bits");
});

test("what it costs is told where it was measured, and only there", () => {
  expect(costText(H264)).toBe("H.264: what it costs was not measured yet");
  const measured = { size_share: 1.384, time_share: 0.21, measured_with: "Kite day" };
  const told = (cost: { size_share?: number | null; time_share?: null; measured_with?: string }) =>
    costText({ ...H264, cost: { ...measured, ...cost } });
  expect(told({})).toBe(
    "H.264: for the same picture 38 % larger, made in 21 % of the time (measured with Kite day)",
  );
  expect(told({ size_share: 0.9, time_share: null })).toContain("10 % smaller (measured");
  expect(told({ size_share: 1.001 })).toContain("picture as large, made");
  expect(told({ size_share: null })).toContain("never as fine");
  expect(told({ measured_with: "" })).toContain("no title on the Shelf could be made both ways");
});

test("a reason for all is told once, and one for some names them", () => {
  const family = { codecs: [], missing: [] };
  const none = { codec: "H.264", why: "nothing is at /dev/dri" };
  expect(whyNot({ ...family, missing: [none, { ...none, codec: "HEVC" }] })).toEqual([
    "Nothing is at /dev/dri.",
  ]);
  expect(whyNot({ ...family, codecs: [H264], missing: [{ ...none, codec: "HEVC" }] })).toEqual([
    "HEVC: nothing is at /dev/dri.",
  ]);
  expect(whyNot({ ...family, missing: [none, { codec: "HEVC", why: "it failed" }] })).toEqual([
    "H.264: nothing is at /dev/dri.",
    "HEVC: it failed.",
  ]);
});
