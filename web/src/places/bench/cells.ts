import type { Schemas } from "../../api/client";

export type Table = Schemas["Table"];
export type Cell = Schemas["Cell"];

/** A run of neighbouring cells of one title that one file serves. `span` counts columns. */
export interface CellRun {
  cells: Cell[];
  span: number;
}

export const cellKey = (cell: { title_id: number; device_id: number }) => `${cell.title_id}:${cell.device_id}`;

/** A title's cells in the order of the devices, neighbours merged where the file would be the same. */
export function runsOf(table: Table, titleId: number): CellRun[] {
  const byDevice = new Map(table.cells.filter((cell) => cell.title_id === titleId).map((cell) => [cell.device_id, cell]));
  const runs: CellRun[] = [];
  for (const device of table.devices) {
    const cell = byDevice.get(device.id);
    if (!cell) continue;
    const last = runs.at(-1);
    const first = last?.cells[0];
    if (last && first && cell.same_as !== null && cell.same_as === (first.same_as ?? first.device_id)) {
      last.cells.push(cell);
      last.span += 1;
    } else {
      runs.push({ cells: [cell], span: 1 });
    }
  }
  return runs;
}

export const canMake = (cell: Cell): boolean => cell.verdict === "convert" || cell.verdict === "rewrap";

/** What a pick of cells comes to: files, bytes, and seconds with their bounds. */
export function totalOf(cells: Cell[]) {
  const files = new Map<string, Cell>();
  for (const cell of cells) files.set(`${cell.title_id}:${cell.same_as ?? cell.device_id}`, cell);
  const total = { files: files.size, bytes: 0, seconds: 0, low: 0, high: 0 };
  for (const { estimate } of files.values()) {
    total.bytes += estimate?.size_bytes ?? 0;
    total.seconds += estimate?.time_s ?? 0;
    total.low += estimate?.time_low_s ?? 0;
    total.high += estimate?.time_high_s ?? 0;
  }
  return total;
}
