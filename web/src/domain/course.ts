/**
 * How large a file will be, by what was expected and what has been written so far; the less is done, the
 * more the plan counts.
 */
export function courseBytes(expected: number, written: number, fraction: number): number {
  const measured = fraction > 0 ? written / fraction : 0;
  // a first pass and the first seconds write next to nothing
  if (fraction < 0.1 || measured < expected / 8) return fraction < 0.9 ? expected : measured;
  return Math.round(expected * (1 - fraction) + measured * fraction);
}
