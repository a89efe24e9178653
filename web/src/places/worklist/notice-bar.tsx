import type { ReactNode } from "react";

import { Notice } from "../../ui/notice";

/** That nothing moves, why, and the way out of it. */
export function NoticeBar({ why, children }: { why: string; children?: ReactNode }) {
  return (
    <div className="mb-4">
      <Notice look="reason">
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
          <span role="status" className="min-w-0 flex-1">
            {why}
          </span>
          {children}
        </div>
      </Notice>
    </div>
  );
}
