import { Progress } from "radix-ui";

export function Bar({ fraction, label }: { fraction: number; label: string }) {
  const percent = Math.round(fraction * 100);
  return (
    <Progress.Root
      value={percent}
      aria-label={label}
      className="h-3 w-full overflow-hidden rounded-full bg-sunk"
    >
      <Progress.Indicator
        className="h-full rounded-full bg-river transition-[width] duration-500"
        style={{ width: `${fraction * 100}%` }}
      />
    </Progress.Root>
  );
}
