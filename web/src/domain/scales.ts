/** A time scale for length strips: seconds to per cent of the width, with marks a person would choose. */
export interface TimeScale {
  end: number;
  marks: number[];
  at: (seconds: number) => number;
}

const STEPS = [5, 10, 15, 30, 60, 120, 300, 600, 900, 1800, 3600, 7200];

/** The scale that holds `longest` seconds with at most six marks. */
export function timeScale(longest: number): TimeScale {
  const wanted = Math.max(10, longest * 1.04);
  const step = STEPS.find((size) => wanted / size <= 6) ?? 14400;
  const marks: number[] = [];
  for (let mark = 0; mark <= wanted; mark += step) marks.push(mark);
  return { end: wanted, marks, at: (seconds) => (100 * seconds) / wanted };
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
