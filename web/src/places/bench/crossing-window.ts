import { type KeyboardEvent, type RefObject, useEffect, useState } from "react";

const HEAD_PX = 248;
/** On a phone the names give way to the cells. */
const NARROW_HEAD_PX = 150;
const NARROW_PX = 640;
const COLUMN_PX = 165;
/** Columns give way so far before the table scrolls sideways. */
const LEAST_COLUMN_PX = 138;
const FIRST_COLUMNS = 8;

/** A key that was pressed in a table. */
type Pressed = Pick<KeyboardEvent<HTMLElement>, "key" | "target" | "currentTarget" | "preventDefault">;

/** Moves the focus to the neighbouring cell; the table is a grid of links. */
export function moveFocus(event: Pressed) {
  const steps: Record<string, [number, number]> = {
    ArrowLeft: [0, -1],
    ArrowRight: [0, 1],
    ArrowUp: [-1, 0],
    ArrowDown: [1, 0],
  };
  const step = steps[event.key];
  const here = event.target instanceof Element ? event.target.closest<HTMLElement>("[data-row]") : null;
  if (!step || !here) return;
  const row = Number(here.dataset.row) + step[0];
  const cells = [...event.currentTarget.querySelectorAll<HTMLElement>(`[data-row="${row}"]`)];
  const mine = [...event.currentTarget.querySelectorAll<HTMLElement>(`[data-row="${here.dataset.row}"]`)];
  const at = mine.indexOf(here);
  const next = step[0] ? cells[Math.min(at, cells.length - 1)] : mine[at + step[1]];
  if (next) {
    event.preventDefault();
    next.focus();
  }
}

/** Which columns are in view; a whole number of them, so that scrolling a little draws nothing anew. */
export function useColumnWindow(scroller: RefObject<HTMLDivElement | null>, count: number) {
  const [view, setView] = useState({
    from: 0,
    to: Math.min(count, FIRST_COLUMNS),
    columnPx: COLUMN_PX,
    headPx: HEAD_PX,
  });
  useEffect(() => {
    const box = scroller.current;
    if (!box) return;
    const look = () => {
      const style = getComputedStyle(box);
      const headPx = box.clientWidth < NARROW_PX ? NARROW_HEAD_PX : HEAD_PX;
      const room = box.clientWidth - parseFloat(style.paddingLeft) - parseFloat(style.paddingRight) - headPx;
      const columnPx = Math.min(COLUMN_PX, Math.max(LEAST_COLUMN_PX, Math.floor(room / Math.max(1, count))));
      const from = Math.max(0, Math.floor(box.scrollLeft / columnPx) - 1);
      const to = Math.min(count, Math.ceil((box.scrollLeft + room) / columnPx) + 1);
      setView((old) =>
        old.from === from && old.to === to && old.columnPx === columnPx && old.headPx === headPx
          ? old
          : { from, to, columnPx, headPx },
      );
    };
    look();
    const resized = new ResizeObserver(look);
    resized.observe(box);
    // before the rows are drawn anew: asking for sizes afterwards would lay them out in the middle of it
    box.addEventListener("scroll", look, { passive: true, capture: true });
    return () => {
      resized.disconnect();
      box.removeEventListener("scroll", look, { capture: true });
    };
  }, [scroller, count]);
  return view;
}
