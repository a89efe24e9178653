import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useMemo, useRef } from "react";
import { useNavigate } from "react-router";

import { Checkbox } from "../../ui/checkbox";
import { canMake, type Cell, cellKey, type Table } from "./cells";
import { ColumnHead } from "./column-head";
import { moveFocus, useColumnWindow } from "./crossing-window";
import type { Picking } from "./picking";
import { ROW_PX, TitleRow } from "./title-row";

const OVERSCAN = 1;

interface Props {
  table: Table;
  cells: ReadonlyMap<number, Cell[]>;
  picking: Picking;
  /** Told which rows are in view, first and last. */
  onView: (first: number, last: number) => void;
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
  const columns = useColumnWindow(scroller, table.targets.length);
  const shown = rows.getVirtualItems();
  const first = shown[0]?.index ?? 0;
  const last = shown.at(-1)?.index ?? 0;
  useEffect(() => onView(first, last), [first, last, onView]);
  const above = shown[0]?.start ?? 0;
  const below = rows.getTotalSize() - (shown.at(-1)?.end ?? 0);
  return (
    <div
      ref={scroller}
      className={`min-h-[220px] overflow-auto px-6 max-md:px-3 ${picking.picked.size ? "max-h-[calc(100dvh-222px)]" : "max-h-[calc(100dvh-190px)]"}`}
      onKeyDown={moveFocus}
    >
      <table
        className="table-fixed border-separate border-spacing-0"
        style={{ width: columns.headPx + columns.columnPx * table.targets.length }}
      >
        <TableHead table={table} cells={cells} picking={picking} headPx={columns.headPx} />
        <tbody>
          {above > 0 && (
            <tr aria-hidden>
              <td style={{ height: above }} />
            </tr>
          )}
          {shown.map((item) => {
            const title = table.titles[item.index];
            if (!title) return null;
            const own = cells.get(title.id);
            const marks = own?.filter((cell) => picking.picked.has(cellKey(cell))).length ?? 0;
            return (
              <TitleRow
                key={title.id}
                title={title}
                row={item.index}
                devices={table.targets}
                cells={own}
                share={title.duration_s / longest}
                picking={picking}
                marks={marks}
                from={columns.from}
                to={columns.to}
                passing={rows.isScrolling}
                go={go}
              />
            );
          })}
          {below > 0 && (
            <tr aria-hidden>
              <td style={{ height: below }} />
            </tr>
          )}
        </tbody>
      </table>
    </div>
  );
}

/** What the columns are for, each with a box for all that is under it. */
function TableHead({ table, cells, picking, headPx }: Omit<Props, "onView"> & { headPx: number }) {
  const byDevice = useMemo(() => {
    const found = new Map<number, Cell[]>();
    for (const device of table.targets) found.set(device.id, []);
    for (const row of cells.values()) for (const cell of row) found.get(cell.target_id)?.push(cell);
    return found;
  }, [cells, table.targets]);
  const everything = useMemo(() => [...cells.values()].flat().filter(canMake), [cells]);
  return (
    <thead>
      <tr>
        <th
          scope="col"
          style={{ width: headPx }}
          className="sticky top-0 left-0 z-20 border-y border-hairline bg-ground pr-4 pb-2 text-left align-bottom text-[12px] font-normal text-quiet"
        >
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
        {table.targets.map((device) => (
          <ColumnHead
            key={device.id}
            column={device}
            cells={byDevice.get(device.id) ?? []}
            picking={picking}
          />
        ))}
      </tr>
    </thead>
  );
}
