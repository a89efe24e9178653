import type { ReactNode } from "react";

/** The head of one of the lists: what stands before its name, and what can be done with all of it. */
export function ListHead({ name, lead, tools }: { name: string; lead?: ReactNode; tools?: ReactNode }) {
  return (
    <div className="flex min-h-[38px] flex-wrap items-center gap-3 border-b border-hairline pb-1.5">
      {lead}
      <h2 className="text-[16px]">{name}</h2>
      <div className="ml-auto">{tools}</div>
    </div>
  );
}
