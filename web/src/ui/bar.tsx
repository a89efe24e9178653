import { Progress } from "radix-ui";

interface Props {
  fraction: number;
  label: string;
  /** Nothing moves at the moment. */
  still?: boolean;
}

export function Bar({ fraction, label, still = false }: Props) {
  const percent = Math.round(fraction * 100);
  return (
    <Progress.Root
      value={percent}
      aria-label={label}
      className="h-3 w-full overflow-hidden rounded-full bg-sunk"
    >
      <Progress.Indicator
        className={`h-full rounded-full transition-[width] duration-500 ${still ? "bg-quiet" : "bg-river"}`}
        style={{ width: `${fraction * 100}%` }}
      />
    </Progress.Root>
  );
}
