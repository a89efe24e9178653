import { Check, ChevronDown } from "lucide-react";
import { Select as Primitive } from "radix-ui";

interface Props<T extends string> {
  value: T;
  onChange: (value: T) => void;
  choices: readonly { value: T; text: string }[];
  label: string;
  disabled?: boolean;
  placeholder?: string;
}

export function Select<T extends string>({
  value,
  onChange,
  choices,
  label,
  disabled,
  placeholder,
}: Props<T>) {
  const choose = (said: string) => {
    const chosen = choices.find((choice) => choice.value === said);
    if (chosen) onChange(chosen.value);
  };
  return (
    <Primitive.Root value={value} onValueChange={choose} disabled={disabled}>
      <Primitive.Trigger
        aria-label={label}
        className="inline-flex max-w-full items-center gap-1 rounded-md border border-hairline bg-raised py-0.5 pr-1.5 pl-2 text-left font-semibold hover:border-quiet"
      >
        <span className="min-w-0 flex-1 truncate">
          <Primitive.Value placeholder={placeholder} />
        </span>
        <Primitive.Icon className="text-quiet">
          <ChevronDown size={14} />
        </Primitive.Icon>
      </Primitive.Trigger>
      <Primitive.Portal>
        <Primitive.Content
          position="popper"
          sideOffset={4}
          className="z-50 max-h-80 min-w-(--radix-select-trigger-width) overflow-hidden rounded-lg border border-hairline bg-raised p-1 shadow-xl"
        >
          <Primitive.Viewport>
            {choices.map((choice) => (
              <Primitive.Item
                key={choice.value}
                value={choice.value}
                className="flex cursor-pointer items-center gap-2 rounded px-2 py-1.5 outline-none data-[highlighted]:bg-mist"
              >
                <Primitive.ItemText>{choice.text}</Primitive.ItemText>
                <Primitive.ItemIndicator className="ml-auto text-river">
                  <Check size={14} />
                </Primitive.ItemIndicator>
              </Primitive.Item>
            ))}
          </Primitive.Viewport>
        </Primitive.Content>
      </Primitive.Portal>
    </Primitive.Root>
  );
}
