import { ToggleGroup } from "radix-ui";

interface Props<T extends string> {
  /** `null` while nothing is chosen. */
  value: T | null;
  onChange: (value: T) => void;
  options: readonly T[];
  label: string;
}

/** One choice of a few, side by side. */
export function Segments<T extends string>({ value, onChange, options, label }: Props<T>) {
  const choose = (said: string) => {
    const chosen = options.find((option) => option === said);
    if (chosen !== undefined) onChange(chosen);
  };
  return (
    <ToggleGroup.Root
      type="single"
      value={value ?? ""}
      onValueChange={choose}
      aria-label={label}
      className="inline-flex max-w-full flex-wrap overflow-hidden rounded-lg border border-hairline bg-raised"
    >
      {options.map((option) => (
        <ToggleGroup.Item
          key={option}
          value={option}
          className="h-8 px-3 hover:bg-mist focus-visible:-outline-offset-2 data-[state=on]:bg-deep data-[state=on]:font-semibold data-[state=on]:text-deep-ink"
        >
          {option}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
