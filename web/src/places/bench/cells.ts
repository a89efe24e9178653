import type { Schemas } from "../../api/client";

export type Table = Schemas["Table"];
export type Target = Schemas["Target"];
export type Row = Schemas["Row"];
export type Cell = Schemas["Cell"];

/** A run of neighbouring cells of one title that one file serves. `span` counts columns. */
export interface CellRun {
  cells: Cell[];
  span: number;
}

export const cellKey = (cell: { title_id: number; target_id: number }) =>
  `${cell.title_id}:${cell.target_id}`;

/** A title's cells in the order of the devices, neighbours merged where the file would be the same. */
export function runsOf(devices: readonly Target[], cells: readonly Cell[]): CellRun[] {
  const byDevice = new Map(cells.map((cell) => [cell.target_id, cell]));
  const runs: CellRun[] = [];
  for (const device of devices) {
    const cell = byDevice.get(device.id);
    if (!cell) continue;
    const last = runs.at(-1);
    const first = last?.cells[0];
    if (last && first && cell.same_as !== null && cell.same_as === (first.same_as ?? first.target_id)) {
      last.cells.push(cell);
      last.span += 1;
    } else {
      runs.push({ cells: [cell], span: 1 });
    }
  }
  return runs;
}

/**
 * The runs that touch the columns from `from` up to `to`, and how many columns are left out on either side.
 */
export function inColumns(runs: readonly CellRun[], from: number, to: number) {
  let at = 0;
  let before = 0;
  let after = 0;
  const shown: CellRun[] = [];
  for (const run of runs) {
    const end = at + run.span;
    if (end <= from) before += run.span;
    else if (at >= to) after += run.span;
    else shown.push(run);
    at = end;
  }
  return { before, runs: shown, after };
}

export const canMake = (cell: Cell): boolean => cell.verdict === "convert" || cell.verdict === "rewrap";

/** The cells of a rectangle between two corners, both included; rows and columns as the table shows them. */
export function rectangle(
  titles: readonly Row[],
  devices: readonly Target[],
  cells: ReadonlyMap<string, Cell>,
  from: string,
  to: string,
): Cell[] {
  const place = (key: string) => {
    const [title, device] = key.split(":").map(Number);
    return [
      titles.findIndex((row) => row.id === title),
      devices.findIndex((column) => column.id === device),
    ] as const;
  };
  const [rowA, columnA] = place(from);
  const [rowB, columnB] = place(to);
  if (Math.min(rowA, rowB, columnA, columnB) < 0) return [];
  const found: Cell[] = [];
  for (const row of titles.slice(Math.min(rowA, rowB), Math.max(rowA, rowB) + 1)) {
    for (const column of devices.slice(Math.min(columnA, columnB), Math.max(columnA, columnB) + 1)) {
      const cell = cells.get(`${row.id}:${column.id}`);
      if (cell && canMake(cell)) found.push(cell);
    }
  }
  return found;
}

const grouped = new WeakMap<readonly Cell[], Map<number, Cell[]>>();

/**
 * A list's cells by title. The same list gives the same rows again, so that what did not change is not
 * drawn anew.
 */
export function rowsOf(list: readonly Cell[]): ReadonlyMap<number, Cell[]> {
  const known = grouped.get(list);
  if (known) return known;
  const rows = new Map<number, Cell[]>();
  for (const cell of list) {
    const row = rows.get(cell.title_id);
    if (row) row.push(cell);
    else rows.set(cell.title_id, [cell]);
  }
  grouped.set(list, rows);
  return rows;
}

/** What a pick of cells comes to: files, bytes, the largest of them, and seconds with their bounds. */
export function totalOf(cells: readonly Cell[]) {
  const files = new Map<string, Cell>();
  for (const cell of cells) files.set(`${cell.title_id}:${cell.same_as ?? cell.target_id}`, cell);
  const total = { files: files.size, bytes: 0, largest: 0, seconds: 0, low: 0, high: 0 };
  for (const { estimate } of files.values()) {
    total.bytes += estimate?.size_bytes ?? 0;
    total.largest = Math.max(total.largest, estimate?.size_bytes ?? 0);
    total.seconds += estimate?.time_s ?? 0;
    total.low += estimate?.time_low_s ?? 0;
    total.high += estimate?.time_high_s ?? 0;
  }
  return total;
}

/** Lists cut into pieces of the same length. */
export function chunked<T>(list: readonly T[], size: number): T[][] {
  return Array.from({ length: Math.ceil(list.length / size) }, (_, place) =>
    list.slice(place * size, (place + 1) * size),
  );
}
