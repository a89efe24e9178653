/** Figures of fidelity as they are said and drawn. Pure. */

const STEPS = [0.5, 1, 2, 5, 10, 20, 50];
const MOST_MARKS = 5;

export const fidelityText = (value: number, unit: string) => `${value.toFixed(1)}${unit && ` ${unit}`}`;

/** From the worst to the best that was measured, in per cent of the height, with marks a person would choose. */
export function fidelityScale(scores: readonly { mean: number; worst: number }[]) {
  const low = Math.min(...scores.map(({ worst }) => worst));
  const high = Math.max(...scores.map(({ mean }) => mean));
  const step = STEPS.find((size) => (high - low) / size <= MOST_MARKS - 1) ?? 100;
  const from = step * Math.floor(low / step);
  const to = Math.max(from + step, step * Math.ceil(high / step));
  const marks = Array.from({ length: Math.round((to - from) / step) + 1 }, (_, n) => from + n * step);
  return { marks, up: (value: number) => (86 * (value - from)) / (to - from) };
}
