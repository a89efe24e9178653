import { expect, it } from "vitest";

import { spanText } from "./durations";
import { rangeText } from "./bounds";

it("names both ends of a range, and one where they read alike", () => {
  expect(rangeText(6.2, 8.1, spanText)).toBe("6 s to 8 s");
  expect(rangeText(820, 850, spanText)).toBe("14 min");
});
