import type { ReactNode } from "react";

import { Notice } from "../../ui/notice";

/** Something to be known of the whole list, and what can be done about it. */
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
