import { expect, test } from "vitest";

import { opened } from "./opening";

test("a file is opened once its job is done, and what ended without one is not waited for", () => {
  const jobs = [
    { id: 1, state: "running" },
    { id: 2, state: "done" },
    { id: 3, state: "failed" },
    { id: 4, state: "paused" },
  ];
  expect(opened([1, 4], jobs)).toEqual({ ready: undefined, left: [1, 4] });
  expect(opened([1, 2, 3, 4, 9], jobs)).toEqual({ ready: 2, left: [1, 4] });
  expect(opened([3], jobs)).toEqual({ ready: undefined, left: [] });
});
