import { expect, test } from "vitest";

import { moved } from "./order";

test("an entry is moved to another place, and the others close up", () => {
  expect(moved(["a", "b", "c", "d"], 3, 0)).toEqual(["d", "a", "b", "c"]);
  expect(moved(["a", "b", "c", "d"], 0, 2)).toEqual(["b", "c", "a", "d"]);
});

test("nothing is moved beyond the ends", () => {
  expect(moved(["a", "b"], 0, -1)).toEqual(["a", "b"]);
  expect(moved(["a", "b"], 1, 2)).toEqual(["a", "b"]);
});
