import { measureElement, useWindowVirtualizer } from "@tanstack/react-virtual";
import { type KeyboardEvent, useCallback, useLayoutEffect, useRef, useState } from "react";

import { type Marks, SourceBlock } from "./source-block";
import type { Block } from "./view";

const LANE_PX = 32;
const HEAD_PX = 76;

const estimate = (block: Block) => Math.max(block.head ? HEAD_PX : 0, 24 + block.lanes.length * LANE_PX);

/** The sources; only those in view are drawn, however many there are. */
export function ShelfList({ blocks, marks }: { blocks: Block[]; marks: Marks }) {
  const list = useRef<HTMLDivElement>(null);
  const [top, setTop] = useState(0);
  useLayoutEffect(() => setTop(list.current?.offsetTop ?? 0), [blocks.length]);
  const heights = useRef(new Map<string, number>());
  const rows = useWindowVirtualizer({
    count: blocks.length,
    // a guess that turns out wrong costs a second layout while somebody scrolls, so heights are kept by shape
    estimateSize: useCallback(
      (index: number) => {
        const block = blocks[index];
        return block ? (heights.current.get(block.shape) ?? estimate(block)) : HEAD_PX;
      },
      [blocks],
    ),
    getItemKey: useCallback((index: number) => blocks[index]?.key ?? index, [blocks]),
    measureElement: (element, entry, instance) => {
      const px = measureElement(element, entry, instance);
      const block = blocks[instance.indexFromElement(element)];
      if (block) heights.current.set(block.shape, px);
      return px;
    },
    scrollMargin: top,
    overscan: 3,
  });
  return (
    <div ref={list} className="mb-4 px-6 max-md:px-3" onKeyDown={moveFocus}>
      <div className="relative" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map((item) => {
          const block = blocks[item.index];
          return (
            block && (
              <div
                key={item.key}
                data-index={item.index}
                ref={rows.measureElement}
                className="absolute inset-x-0 top-0 contain-content"
                style={{ transform: `translateY(${item.start - top}px)` }}
              >
                <SourceBlock block={block} marks={marks} px={item.size} passing={rows.isScrolling} />
              </div>
            )
          );
        })}
      </div>
    </div>
  );
}

/** Arrow keys go from strip to strip: along a lane, and to the nearest in the next. */
function moveFocus(event: KeyboardEvent<HTMLDivElement>) {
  const here = event.target instanceof HTMLElement ? event.target.closest<HTMLElement>("[data-strip]") : null;
  const step = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -1, ArrowDown: 1 }[event.key];
  if (!here || step === undefined) return;
  const strips = [...event.currentTarget.querySelectorAll<HTMLElement>("[data-strip]")];
  const box = here.getBoundingClientRect();
  const vertical = event.key === "ArrowUp" || event.key === "ArrowDown";
  const placed = strips.map((strip) => ({ strip, at: strip.getBoundingClientRect() }));
  const beyond = placed
    .filter(({ at }) =>
      vertical
        ? step * (at.top - box.top) > 4
        : Math.abs(at.top - box.top) <= 4 && step * (at.left - box.left) > 1,
    )
    .sort((a, b) =>
      vertical
        ? step * (a.at.top - b.at.top) || Math.abs(a.at.left - box.left) - Math.abs(b.at.left - box.left)
        : step * (a.at.left - b.at.left),
    );
  beyond[0]?.strip.focus();
  event.preventDefault();
}
