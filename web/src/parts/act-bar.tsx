import type { ReactNode } from "react";

/** The dark bar at the foot of a place: what is picked, and the next step. */
export function ActBar({ children }: { children: ReactNode }) {
  return (
    <div className="sticky bottom-4 z-20 mx-6 mt-auto flex min-h-[60px] flex-wrap items-center gap-x-4 gap-y-2 rounded-card bg-deep px-4 py-2.5 text-deep-ink shadow-lg max-md:mx-3">
      {children}
    </div>
  );
}
