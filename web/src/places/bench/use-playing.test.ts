// @vitest-environment jsdom
import { act, cleanup, renderHook } from "@testing-library/react";
import { afterEach, expect, it } from "vitest";

import { type PlayedFile, usePlaying } from "./use-playing";

afterEach(cleanup);

const track = (place: number) => ({ place, text: `track ${place}` });
const file: PlayedFile = { duration_s: 60, sounds: [track(0), track(1)], subtitles: [track(0)] };

it("goes on from where it is with what is switched on, and lets go of what the file has no more", () => {
  const { result, rerender } = renderHook(({ sheet, at }) => usePlaying(sheet, at), {
    initialProps: { sheet: file, at: 10 },
  });
  act(() => result.current.switchTo({ sound: 1, subtitle: 0 }));
  expect([result.current.from, result.current.switched]).toEqual([null, { sound: 1, subtitle: 0 }]);
  act(() => result.current.toggle());
  rerender({ sheet: file, at: 14 });
  expect(result.current.from).toBe(10);
  act(() => result.current.switchTo({ sound: 1, subtitle: null }));
  expect([result.current.from, result.current.switched]).toEqual([14, { sound: 1, subtitle: null }]);
  act(() => result.current.switchTo({ sound: 1, subtitle: 0 }));
  rerender({ sheet: { ...file, sounds: [track(0)], subtitles: [] }, at: 14 });
  expect(result.current.switched).toEqual({ sound: 0, subtitle: null });
});

it("plays the next seconds until the title is over, and says where seconds could not be made", () => {
  const { result } = renderHook(() => usePlaying(file, 20));
  act(() => result.current.end(30));
  expect(result.current.from).toBe(30);
  act(() => result.current.end(59.5));
  expect(result.current.from).toBeNull();
  act(() => result.current.fail());
  expect([result.current.from, result.current.failedAt]).toEqual([null, 20]);
});
