/** A time scale for length strips: seconds to per cent of the width, with marks a person would choose. */
export interface TimeScale {
  /** What the whole scale holds, in seconds. */
  end: number;
  /** What is in view: from when, and how much. */
  from: number;
  span: number;
  marks: number[];
  /** Where a moment lies, and how wide a length is, in per cent of the width. */
  at: (seconds: number) => number;
  wide: (seconds: number) => number;
}

const STEPS = [1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 900, 1800, 3600, 7200];

/**
 * The scale that holds `longest` seconds, `zoom` times enlarged, from `from` on, with at most seven marks.
 */
export function timeScale(longest: number, zoom = 1, from = 0): TimeScale {
  const end = Math.max(10, longest * 1.04);
  const span = end / zoom;
  const start = Math.max(0, Math.min(from, end - span));
  const step = STEPS.find((size) => span / size <= 6) ?? 14400;
  const marks: number[] = [];
  for (let mark = Math.ceil(start / step) * step; mark <= start + span; mark += step) marks.push(mark);
  return {
    end,
    from: start,
    span,
    marks,
    at: (seconds) => (100 * (seconds - start)) / span,
    wide: (seconds) => (100 * seconds) / span,
  };
}

/**
 * A scale for sizes from nothing to the largest, in per cent; a bound is on it where it lies within half as
 * much again.
 */
export function sizeScale(largest: number, bounds: readonly number[]) {
  const near = bounds.filter((bound) => bound <= largest * 1.5);
  const end = Math.max(1, largest, ...near) * 1.03;
  return { near, at: (size: number) => (100 * size) / end };
}
