import { Slider } from "radix-ui";

interface Props {
  label: string;
  value: number;
  max: number;
  step: number;
  onChange: (value: number) => void;
  text?: string;
  className?: string;
}

/** A value on a line. */
export function Slide({ label, value, max, step, onChange, text, className = "" }: Props) {
  return (
    <Slider.Root
      value={[value]}
      max={max}
      step={step}
      onValueChange={([next]) => onChange(next ?? 0)}
      className={`relative flex h-5 touch-none items-center select-none ${className}`}
    >
      <Slider.Track className="relative h-1 flex-1 rounded-full bg-hairline">
        <Slider.Range className="absolute h-full rounded-full bg-river" />
      </Slider.Track>
      <Slider.Thumb
        aria-label={label}
        aria-valuetext={text}
        className="block size-4 rounded-full border-2 border-river bg-raised"
      />
    </Slider.Root>
  );
}
