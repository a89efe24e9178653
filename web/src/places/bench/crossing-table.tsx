import { useVirtualizer } from "@tanstack/react-virtual";
import { ListChecks } from "lucide-react";
import { type KeyboardEvent, memo, type RefObject, useEffect, useMemo, useRef, useState } from "react";
import { Link, type NavigateFunction, useNavigate } from "react-router";

import { durationText } from "../../domain/durations";
import { roleWord } from "../../parts/roles";
import { Checkbox } from "../../ui/checkbox";
import { canMake, type Cell, cellKey, type CellRun, type Column, inColumns, type Row, runsOf, type Table } from "./cells";
import { ColumnHead } from "./column-head";
import type { Picking } from "./picking";
import { RunCell } from "./run-cell";

const ROW_PX = 70;
const HEAD_PX = 248;
/** On a phone the names give way to the cells. */
const NARROW_HEAD_PX = 150;
const NARROW_PX = 640;
const COLUMN_PX = 165;
/** Columns give way so far before the table scrolls sideways. */
const LEAST_COLUMN_PX = 138;
const OVERSCAN = 1;
const FIRST_COLUMNS = 8;

interface Props {
  table: Table;
  cells: ReadonlyMap<number, Cell[]>;
  picking: Picking;
  /** Told which rows are in view, first and last. */
  onView: (first: number, last: number) => void;
}

/** Moves the focus to the neighbouring cell; the table is a grid of links. */
function moveFocus(event: KeyboardEvent<HTMLElement>) {
  const steps: Record<string, [number, number]> = { ArrowLeft: [0, -1], ArrowRight: [0, 1], ArrowUp: [-1, 0], ArrowDown: [1, 0] };
  const step = steps[event.key];
  const here = (event.target as HTMLElement).closest<HTMLElement>("[data-row]");
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
function useColumnWindow(scroller: RefObject<HTMLDivElement | null>, count: number) {
  const [view, setView] = useState({ from: 0, to: Math.min(count, FIRST_COLUMNS), columnPx: COLUMN_PX, headPx: HEAD_PX });
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
      setView((old) => (old.from === from && old.to === to && old.columnPx === columnPx && old.headPx === headPx ? old : { from, to, columnPx, headPx }));
    };
    look();
    const resized = new ResizeObserver(look);
    resized.observe(box);
    box.addEventListener("scroll", look, { passive: true });
    return () => {
      resized.disconnect();
      box.removeEventListener("scroll", look);
    };
  }, [scroller, count]);
  return view;
}

/** Picked titles down, devices across; only the rows in view are drawn, heads stay in sight. */
export function CrossingTable({ table, cells, picking, onView }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const longest = Math.max(1, ...table.titles.map((title) => title.duration_s));
  const rows = useVirtualizer({
    count: table.titles.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_PX,
    overscan: OVERSCAN,
  });
  const go = useNavigate();
  const columns = useColumnWindow(scroller, table.devices.length);
  const shown = rows.getVirtualItems();
  const first = shown[0]?.index ?? 0;
  const last = shown.at(-1)?.index ?? 0;
  useEffect(() => onView(first, last), [first, last, onView]);
  const byDevice = useMemo(() => {
    const found = new Map<number, Cell[]>();
    for (const device of table.devices) found.set(device.id, []);
    for (const row of cells.values()) for (const cell of row) found.get(cell.device_id)?.push(cell);
    return found;
  }, [cells, table.devices]);
  const everything = useMemo(() => [...cells.values()].flat().filter(canMake), [cells]);
  const above = shown[0]?.start ?? 0;
  const below = rows.getTotalSize() - (shown.at(-1)?.end ?? 0);
  return (
    <div ref={scroller} className={`min-h-[220px] overflow-auto px-6 max-md:px-3 ${picking.picked.size ? "max-h-[calc(100dvh-222px)]" : "max-h-[calc(100dvh-190px)]"}`} onKeyDown={moveFocus}>
      <table className="table-fixed border-separate border-spacing-0" style={{ width: columns.headPx + columns.columnPx * table.devices.length }}>
        <thead>
          <tr>
            <th scope="col" style={{ width: columns.headPx }} className="sticky top-0 left-0 z-20 border-y border-hairline bg-ground pr-4 pb-2 text-left align-bottom text-[12px] font-normal text-quiet">
              <span className="flex items-end justify-between gap-2">
                Titles down, devices across
                <Checkbox
                  checked={everything.length > 0 && everything.every((cell) => picking.picked.has(cellKey(cell)))}
                  disabled={!everything.length}
                  label="Pick everything"
                  onChange={(next) => picking.pickWhole("all", next)}
                />
              </span>
            </th>
            {table.devices.map((device) => (
              <ColumnHead key={device.id} column={device} cells={byDevice.get(device.id) ?? []} picking={picking} />
            ))}
          </tr>
        </thead>
        <tbody>
          {above > 0 && <tr aria-hidden><td style={{ height: above }} /></tr>}
          {shown.map((item) => {
            const title = table.titles[item.index];
            if (!title) return null;
            const own = cells.get(title.id);
            const marks = own?.filter((cell) => picking.picked.has(cellKey(cell))).length ?? 0;
            return <TitleRow key={title.id} title={title} row={item.index} devices={table.devices} cells={own} share={title.duration_s / longest} picking={picking} marks={marks} from={columns.from} to={columns.to} go={go} />;
          })}
          {below > 0 && <tr aria-hidden><td style={{ height: below }} /></tr>}
        </tbody>
      </table>
    </div>
  );
}

interface RowProps {
  title: Row;
  row: number;
  devices: Column[];
  cells: Cell[] | undefined;
  share: number;
  picking: Picking;
  /** How many of the row's cells are picked: rows without any are not drawn anew by a pick elsewhere. */
  marks: number;
  /** The columns in view, first and last. */
  from: number;
  to: number;
  go: NavigateFunction;
}

const TitleRow = memo(
  function TitleRow({ title, row, devices, cells, share, picking, from, to, go }: RowProps) {
    const all = useMemo(() => (cells ? runsOf(devices, cells) : []), [cells, devices]);
    const { before, runs, after } = inColumns(all, from, to);
    const able = cells?.filter(canMake) ?? [];
    const isPicked = (cell: Cell) => picking.picked.has(cellKey(cell));
    const isChosen = (run: CellRun) => run.cells.some(canMake) && run.cells.filter(canMake).every(isPicked);
    const isPartly = (run: CellRun) => !isChosen(run) && run.cells.some(isPicked);
    return (
      <tr style={{ height: ROW_PX }}>
        <th scope="row" className="sticky left-0 z-10 border-b border-hairline bg-ground py-2 pr-3 text-left font-normal">
          <span className="flex items-center gap-2">
            <Link to={`/shelf/titles/${title.id}`} className="min-w-0 flex-1 truncate font-semibold hover:underline" title={title.name}>
              {title.name}
            </Link>
            <Link to={`/bench/verdicts/${title.id}`} aria-label={`Which devices play ${title.name}?`} title="Which devices play it, rule by rule" className="text-quiet hover:text-ink max-sm:hidden">
              <ListChecks size={15} />
            </Link>
            <Checkbox checked={able.length > 0 && able.every((cell) => picking.picked.has(cellKey(cell)))} disabled={!able.length} label={`Pick ${title.name} for every device`} onChange={(next) => picking.pick(able, next)} />
          </span>
          <span className="block truncate text-[12px] text-quiet">
            {roleWord(title.role)} · {durationText(title.duration_s)} · {title.detail}
          </span>
          <span aria-hidden className="mt-1 block h-[5px] rounded-full bg-river" style={{ width: `${Math.max(3, 100 * share)}%` }} />
        </th>
        {before > 0 && <td colSpan={before} aria-hidden className="border-b border-hairline" />}
        {runs.map((run) => (
          <td key={run.cells[0]?.device_id} colSpan={run.span} className="h-[62px] border-b border-hairline p-1">
            <RunCell run={run} row={row} chosen={isChosen(run)} partly={isPartly(run)} pickTo={picking.pickTo} go={go} />
          </td>
        ))}
        {after > 0 && <td colSpan={after} aria-hidden className="border-b border-hairline" />}
        {!cells && (
          <td colSpan={devices.length} className="border-b border-hairline p-1">
            <div className="reading h-[52px] rounded-lg opacity-50" role="status" aria-label={`Planning ${title.name}`} />
          </td>
        )}
      </tr>
    );
  },
  (before, after) =>
    before.title === after.title && before.cells === after.cells && before.devices === after.devices && before.row === after.row && before.from === after.from && before.to === after.to && before.share === after.share && before.marks === 0 && after.marks === 0 && before.picking.pickTo === after.picking.pickTo,
);
