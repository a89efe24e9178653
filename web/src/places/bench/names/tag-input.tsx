import { useState } from "react";

import type { Tag } from "../../../domain/tags";

interface Props {
  label: string;
  tag: Tag | undefined;
  lookBelow: number;
  /** Whether the value was kept. */
  onValue: (value: string) => Promise<boolean>;
  /** Where the cell stands in a table, and what goes to its neighbours above and below. */
  cell?: string;
  onMove?: (by: 1 | -1) => void;
  long?: boolean;
}

/** A tag to be typed: what is not sure is marked, what was set by hand is strong. */
export function TagInput({ label, tag, lookBelow, onValue, cell, onMove, long }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const [refused, setRefused] = useState(false);
  const commit = async () => {
    const kept = typed === null || typed.trim() === (tag?.value ?? "") || (await onValue(typed.trim()));
    // what was refused stays to be mended
    setRefused(!kept);
    if (kept) setTyped(null);
  };
  const doubt = tag !== undefined && !tag.by_hand && tag.sure < lookBelow;
  const plain = onMove ? "border-transparent bg-transparent" : "border-hairline bg-raised";
  const look = refused ? "border-madder" : doubt ? "border-dashed border-marigold" : plain;
  const shared = {
    "aria-label": label,
    "aria-description": doubt ? `To look at: ${tag.reason}` : undefined,
    title: tag?.reason,
    value: typed ?? tag?.value ?? "",
    "aria-invalid": refused,
    onBlur: () => void commit(),
    className: `w-full min-w-0 rounded-md border px-2 py-1 hover:border-quiet focus:bg-raised ${tag?.by_hand ? "font-semibold" : ""} ${look}`,
  };
  if (long) return <textarea {...shared} rows={2} onChange={(event) => setTyped(event.target.value)} />;
  return (
    <input
      {...shared}
      data-cell={cell}
      data-typed={typed === null ? "no" : "yes"}
      onChange={(event) => setTyped(event.target.value)}
      onKeyDown={(event) => {
        if (event.key === "Escape") {
          setTyped(null);
          setRefused(false);
        }
        const by =
          event.key === "ArrowUp" ? -1 : event.key === "ArrowDown" || event.key === "Enter" ? 1 : null;
        if (by === null) return;
        event.preventDefault();
        if (onMove) onMove(by);
        else event.currentTarget.blur();
      }}
    />
  );
}
