import { describe, expect, it } from "vitest";

import { grouped } from "./groups";

const job = (id: number, source_name: string | null, added: string, ...device_names: string[]) => ({
  id,
  title_name: `Title ${id}`,
  source_name,
  device_names,
  added,
});

const JOBS = [
  job(1, "MARRAM", "2026-11-27T22:00:00", "Phone"),
  job(2, "LANTERN", "2026-11-28T01:30:00", "Phone", "Tablet"),
  job(3, "MARRAM", "2026-11-28T10:00:00", "Tablet"),
  job(4, null, "2026-11-28T16:59:00", "Phone"),
  job(5, "LANTERN", "2026-11-28T17:00:00", "Phone"),
];

const ids = (by: Parameters<typeof grouped>[1]) =>
  grouped(JOBS, by).map((group) => group.jobs.map(({ id }) => id));

describe("groups of jobs", () => {
  it("come in the order of their first jobs, and each job is in one", () => {
    expect(ids("by source")).toEqual([[1, 3], [2, 5], [4]]);
    expect(grouped(JOBS, "by source").map(({ name }) => name)).toEqual(["MARRAM", "LANTERN", "Title 4"]);
    expect(ids("by device")).toEqual([[1, 4, 5], [2], [3]]);
  });

  it("put the small hours to the evening before, and tell days from evenings", () => {
    expect(ids("by evening")).toEqual([[1, 2], [3, 4], [5]]);
    expect(new Set(grouped(JOBS, "by evening").map(({ name }) => name)).size).toBe(3);
  });
});
