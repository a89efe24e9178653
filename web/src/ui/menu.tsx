import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";

export interface MenuEntry {
  text: string;
  note?: string;
  onChoose: () => void;
}

interface Props {
  children: ReactNode;
  entries: MenuEntry[];
  label: string;
  defaultOpen?: boolean;
}

/** A list of verbs behind a button. */
export function Menu({ children, entries, label, defaultOpen }: Props) {
  return (
    <DropdownMenu.Root defaultOpen={defaultOpen}>
      <DropdownMenu.Trigger asChild aria-label={label}>
        {children}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-50 max-h-[70dvh] min-w-48 overflow-y-auto rounded-lg border border-hairline bg-raised p-1 shadow-xl"
        >
          {entries.map((entry) => (
            <DropdownMenu.Item
              key={entry.text}
              onSelect={entry.onChoose}
              className="cursor-pointer rounded px-2.5 py-1.5 outline-none data-[highlighted]:bg-mist"
            >
              {entry.text}
              {entry.note && (
                <span className="block max-w-80 text-[12.5px] leading-snug text-quiet">{entry.note}</span>
              )}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
