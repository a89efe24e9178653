import { describe, expect, it } from "vitest";

import type { Schemas } from "../../api/client";
import { timeScale } from "../../domain/scales";
import { lanesOf } from "./lanes";

const title = (number: number, role: Schemas["Role"], duration_s: number): Schemas["TitleOutline"] => ({
  id: number,
  number,
  name: `Title ${number}`,
  duration_s,
  role,
  size_bytes: 1,
  chapters: [],
  reason: "",
  taken: "",
  taken_together: "",
  shares: [],
  gaps: [],
  part_of: null,
  part_count: 0,
  fault: null,
});

const numbers = (lanes: ReturnType<typeof lanesOf>) =>
  lanes.map((lane) => lane.strips.map(({ strip }) => strip.number));

describe("the lanes of a source", () => {
  it("give films and play-alls a lane of their own, episodes a row, and what is small the last", () => {
    const scale = timeScale(6240);
    const titles = [
      title(1, "play_all", 6240),
      ...[2, 3, 4, 5].map((number) => title(number, "episode", 1560)),
      title(6, "duplicate", 1546),
      title(7, "extra", 200),
      title(8, "menu", 2),
    ];
    expect(numbers(lanesOf(titles, scale))).toEqual([[1], [6], [2, 3, 4, 5], [7, 8]]);
  });

  it("wrap where a row is full, with 99 titles too", () => {
    const scale = timeScale(3600);
    const titles = Array.from({ length: 99 }, (_, index) => title(index + 1, "extra", 60 + index));
    const lanes = lanesOf(titles, scale);
    expect(lanes.flatMap((lane) => lane.strips)).toHaveLength(99);
    for (const lane of lanes)
      for (const { start, width } of lane.strips) expect(start + width).toBeLessThanOrEqual(scale.end);
  });

  it("keep the shortest title wide enough to be read and touched", () => {
    const lanes = lanesOf([title(1, "feature", 1)], timeScale(7200));
    expect(lanes[0]?.strips[0]?.width).toBeGreaterThan(7200 * 0.1);
  });
});
