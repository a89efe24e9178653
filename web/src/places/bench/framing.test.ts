import { describe, expect, it } from "vitest";

import { cropPin, cutsPicture, type Framing, seen, snapped, stored, withSide } from "./framing";

const WIDE: Framing = {
  width: 720,
  height: 576,
  aspect: 16 / 9,
  rotation: 0,
  cut: { top: 72, bottom: 72, left: 0, right: 0 },
  found: { top: 72, bottom: 72, left: 0, right: 0 },
  often: { top: 100, bottom: 98, left: 0, right: 0 },
  widest_at_s: 12,
  shaping: [],
};
const SIDES = { top: 1, bottom: 2, left: 3, right: 4 };

describe("sides of a picture", () => {
  it("lie where its turning puts them, and come back", () => {
    expect(seen(SIDES, 90)).toEqual({ top: 3, right: 1, bottom: 4, left: 2 });
    expect(seen(SIDES, 180)).toEqual({ top: 2, bottom: 1, left: 4, right: 3 });
    for (const rotation of [0, 90, 180, 270]) expect(stored(seen(SIDES, rotation), rotation)).toEqual(SIDES);
  });

  it("move in pairs of pixels and leave a picture between them", () => {
    expect(withSide(WIDE.cut, "top", 81, WIDE).top).toBe(82);
    expect(withSide(WIDE.cut, "top", 5000, WIDE).top).toBe(576 - 72 - 64);
    expect(withSide(WIDE.cut, "left", -9, WIDE).left).toBe(0);
  });

  it("snap to what was found, to the other shape, and to the picture's own edge", () => {
    expect([70, 96, 4, 40].map((to) => snapped("top", to, WIDE))).toEqual([72, 100, 0, 40]);
  });

  it("are pinned in the order of the stored picture", () => {
    expect(cropPin({ top: 3, right: 1, bottom: 4, left: 2 }, 90)).toBe("1,2,3,4");
    expect(cropPin({ top: 0, right: 0, bottom: 0, left: 0 }, 270)).toBe("none");
  });

  it("cut into the picture only beyond what is black everywhere", () => {
    expect(cutsPicture({ top: 72, bottom: 72, left: 0, right: 0 }, WIDE)).toBe(false);
    expect(cutsPicture({ top: 100, bottom: 98, left: 0, right: 0 }, WIDE)).toBe(true);
  });
});
