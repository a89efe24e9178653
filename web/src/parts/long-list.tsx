import { useWindowVirtualizer } from "@tanstack/react-virtual";
import { type ReactNode, useCallback, useEffect } from "react";

import { useTop } from "./top";

interface Props<Entry extends { id: number }> {
  entries: readonly Entry[];
  label: string;
  /** How high a row is before it is measured. */
  rowPx: number;
  row: (entry: Entry) => ReactNode;
  /** Called when the last of them comes near. */
  onEnd?: () => void;
}

/** A list that scrolls with the page; only the rows in view are drawn, however many there are. */
export function LongList<Entry extends { id: number }>({ entries, label, rowPx, row, onEnd }: Props<Entry>) {
  const { part: list, top } = useTop<HTMLUListElement>();
  const rows = useWindowVirtualizer({
    count: entries.length,
    estimateSize: () => rowPx,
    getItemKey: useCallback((index: number) => entries[index]?.id ?? index, [entries]),
    scrollMargin: top,
    overscan: 12,
  });
  const isNear = rows.getVirtualItems().at(-1)?.index === entries.length - 1;
  useEffect(() => {
    if (isNear) onEnd?.();
  }, [isNear, entries.length, onEnd]);
  return (
    <ul ref={list} aria-label={label} className="relative" style={{ height: rows.getTotalSize() }}>
      {rows.getVirtualItems().map((item) => {
        const entry = entries[item.index];
        return (
          entry && (
            <li
              key={item.key}
              data-index={item.index}
              ref={rows.measureElement}
              className="absolute inset-x-0 top-0"
              style={{ transform: `translateY(${item.start - top}px)` }}
            >
              {row(entry)}
            </li>
          )
        );
      })}
    </ul>
  );
}
