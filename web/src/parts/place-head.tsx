import type { ReactNode } from "react";

/** The head of a place: its name, what is in it, and what can be done with all of it. */
export function PlaceHead({ name, about, children }: { name: string; about?: string; children?: ReactNode }) {
  return (
    <div className="flex min-h-[68px] flex-wrap items-center gap-x-4 gap-y-2 px-6 py-3 max-md:px-3">
      <h1 className="text-[26px] leading-none">{name}</h1>
      <span className="text-quiet">{about}</span>
      <div className="ml-auto flex flex-wrap items-center gap-3">{children}</div>
    </div>
  );
}
