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

/** The scale that holds `longest` seconds, `zoom` times enlarged, from `from` on, with at most seven marks. */
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

/** Points on the trade-off curve: sizes across on a root scale, steps up. */
export function curvePoints(sizes: number[], limit: number | null, box: { width: number; height: number }) {
  const most = Math.max(...sizes) * 1.12;
  const across = (size: number) => box.width * Math.sqrt(Math.min(1, size / most));
  const points = sizes.map((size, index) => ({
    x: across(size),
    y: box.height * (1 - Math.sqrt((index + 0.6) / (sizes.length - 0.2))),
  }));
  return { points, limitX: limit !== null && limit <= most ? across(limit) : null };
}
