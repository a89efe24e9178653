import { Tabs as Primitive } from "radix-ui";
import type { ReactNode } from "react";

interface Props {
  value: string;
  onChange: (value: string) => void;
  tabs: { value: string; text: string; content: ReactNode }[];
}

/** Several ways to the same end, one at a time. */
export function Tabs({ value, onChange, tabs }: Props) {
  return (
    <Primitive.Root value={value} onValueChange={onChange}>
      <Primitive.List className="mb-3 flex gap-5 border-b border-hairline">
        {tabs.map((tab) => (
          <Primitive.Trigger
            key={tab.value}
            value={tab.value}
            className="-mb-px border-b-2 border-transparent pb-2 text-quiet hover:text-ink data-[state=active]:border-river data-[state=active]:font-semibold data-[state=active]:text-ink"
          >
            {tab.text}
          </Primitive.Trigger>
        ))}
      </Primitive.List>
      {tabs.map((tab) => (
        <Primitive.Content key={tab.value} value={tab.value}>
          {tab.content}
        </Primitive.Content>
      ))}
    </Primitive.Root>
  );
}
