const QUIETEST_DB = -60;

interface Props {
  levels: readonly number[];
  className: string;
}

/** How loud a title is along its time: from nothing at -60 dBFS to all of the height at full scale. */
export function SoundLane({ levels, className }: Props) {
  const heights = levels.map((level) => Math.max(0, 1 - level / QUIETEST_DB));
  const above = heights.map((height, at) => `${at},${(50 - 50 * height).toFixed(1)}`);
  const below = heights.map((height, at) => `${at},${(50 + 50 * height).toFixed(1)}`).reverse();
  return (
    <svg
      viewBox={`0 0 ${Math.max(1, levels.length - 1)} 100`}
      preserveAspectRatio="none"
      className={className}
      aria-hidden
    >
      <polygon points={[...above, ...below].join(" ")} fill="currentColor" />
    </svg>
  );
}
