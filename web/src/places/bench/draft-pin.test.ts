// @vitest-environment jsdom
import { act, cleanup, renderHook } from "@testing-library/react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";

import { useDraftPin } from "./draft-pin";

beforeEach(() => void vi.useFakeTimers());
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

function drafted(stored: string | null) {
  const pins: (string | null)[] = [];
  const hook = renderHook(
    ({ now }) =>
      useDraftPin<number>(
        now,
        (value) => (value ? String(value) : null),
        (pin) => pins.push(pin),
      ),
    { initialProps: { now: stored } },
  );
  return { ...hook, pins, wait: () => act(() => vi.advanceTimersByTime(1000)) };
}

it("pins what has stayed for a moment, once", () => {
  const { result, rerender, pins, wait } = drafted(null);
  act(() => result.current.set(3));
  act(() => result.current.set(4));
  expect([pins, result.current.value, result.current.isUnsaid]).toEqual([[], 4, true]);
  wait();
  expect(pins).toEqual(["4"]);
  // on its way, and when it has arrived, it is what is worked on
  expect([result.current.value, result.current.isUnsaid]).toEqual([4, false]);
  rerender({ now: "4" });
  wait();
  expect([pins, result.current.value, result.current.isUnsaid]).toEqual([["4"], 4, false]);
  act(() => result.current.set(0));
  wait();
  expect(pins).toEqual(["4", null]);
});

it("keeps what is worked on while answers to what was asked before come in", () => {
  const { result, rerender, pins, wait } = drafted(null);
  act(() => result.current.set(3));
  // a pointer still moves where nothing was drawn anew since
  const { set } = result.current;
  wait();
  act(() => set(8));
  rerender({ now: "3" });
  expect(result.current.value).toBe(8);
  wait();
  act(() => result.current.set(9));
  wait();
  rerender({ now: "8" });
  expect(result.current.value).toBe(9);
  rerender({ now: "9" });
  expect([pins, result.current.value, result.current.isUnsaid]).toEqual([["3", "8", "9"], 9, false]);
});

it("lets go of what is worked on where something else was pinned", () => {
  const { result, rerender, pins, wait } = drafted("1");
  act(() => result.current.set(3));
  rerender({ now: "7" });
  expect([result.current.value, result.current.isUnsaid]).toEqual([null, false]);
  wait();
  expect(pins).toEqual([]);
});

it("is said at once where that is asked for, and where the sheet is left", () => {
  const { result, pins, unmount } = drafted(null);
  act(() => result.current.set(5));
  act(() => result.current.say());
  act(() => result.current.say());
  expect(pins).toEqual(["5"]);
  act(() => result.current.set(6));
  unmount();
  expect(pins).toEqual(["5", "6"]);
});
