// @vitest-environment jsdom
import { cleanup, renderHook } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";

import { useRowOrder } from "./row-order";

afterEach(cleanup);

const ROWS = [1, 2, 3, 4].map((id) => ({ id }));

it("keys go on from where the ones before put a row, though it was not drawn there yet", () => {
  const put = vi.fn();
  const { result, rerender } = renderHook(({ rows }) => useRowOrder(rows, put), {
    initialProps: { rows: ROWS },
  });
  for (const key of ["ArrowUp", "ArrowUp", "End"]) expect(result.current.acts.key(4, key)).toBe(true);
  expect(put.mock.calls).toEqual([
    [new Set([4]), 3],
    [new Set([4]), 2],
    [new Set([4]), null],
  ]);
  expect(result.current.acts.key(4, "x")).toBe(false);
  // what is drawn in the end counts
  rerender({ rows: ROWS.slice(0, 3) });
  expect(result.current.acts.key(3, "ArrowUp")).toBe(true);
  expect(put).toHaveBeenLastCalledWith(new Set([3]), 2);
});
