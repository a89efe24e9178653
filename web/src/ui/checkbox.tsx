import { Check } from "lucide-react";
import { Checkbox as Primitive } from "radix-ui";

interface Props {
  checked: boolean;
  onChange: (checked: boolean) => void;
  label: string;
  disabled?: boolean;
}

export function Checkbox({ checked, onChange, label, disabled }: Props) {
  return (
    <Primitive.Root
      checked={checked}
      disabled={disabled}
      onCheckedChange={(next) => onChange(next === true)}
      aria-label={label}
      className="flex size-4 shrink-0 items-center justify-center rounded-[4px] border border-quiet bg-raised disabled:border-dashed disabled:opacity-60 data-[state=checked]:border-marigold data-[state=checked]:bg-marigold data-[state=checked]:text-marigold-ink"
    >
      <Primitive.Indicator>
        <Check size={12} strokeWidth={3.5} />
      </Primitive.Indicator>
    </Primitive.Root>
  );
}
