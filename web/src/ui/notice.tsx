import type { VariantProps } from "class-variance-authority";
import type { ReactNode } from "react";

import { noticeLooks } from "./notice.looks";

export function Notice({ look, children }: VariantProps<typeof noticeLooks> & { children: ReactNode }) {
  return (
    <div role={look === "fault" ? "alert" : undefined} className={noticeLooks({ look })}>
      {children}
    </div>
  );
}
