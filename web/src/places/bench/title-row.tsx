import { ListChecks } from "lucide-react";
import { memo, useMemo } from "react";
import { Link, type NavigateFunction } from "react-router";

import { durationText } from "../../domain/durations";
import { useBrief } from "../../parts/brief";
import { roleWord } from "../../parts/roles";
import { Checkbox } from "../../ui/checkbox";
import { canMake, type Cell, cellKey, type CellRun, inColumns, type Row, runsOf, type Target } from "./cells";
import type { Picking } from "./picking";
import { RunCell } from "./run-cell";

export const ROW_PX = 70;

interface RowProps {
  title: Row;
  row: number;
  devices: Target[];
  cells: Cell[] | undefined;
  share: number;
  picking: Picking;
  /** How many of the row's cells are picked: rows without any are not drawn anew by a pick elsewhere. */
  marks: number;
  /** The columns in view, first and last. */
  from: number;
  to: number;
  go: NavigateFunction;
  /** It comes into view by scrolling. */
  passing: boolean;
}

export const TitleRow = memo(
  function TitleRow({ title, row, devices, cells, share, picking, from, to, go, passing }: RowProps) {
    const brief = useBrief(passing);
    const all = useMemo(() => (cells ? runsOf(devices, cells) : []), [cells, devices]);
    const { before, runs, after } = inColumns(all, from, to);
    const able = cells?.filter(canMake) ?? [];
    const isPicked = (cell: Cell) => picking.picked.has(cellKey(cell));
    const isChosen = (run: CellRun) => run.cells.some(canMake) && run.cells.filter(canMake).every(isPicked);
    const isPartly = (run: CellRun) => !isChosen(run) && run.cells.some(isPicked);
    if (brief) return <BriefRow title={title} columns={devices.length} />;
    return (
      <tr style={{ height: ROW_PX }}>
        <th
          scope="row"
          className="sticky left-0 z-10 border-b border-hairline bg-ground py-2 pr-3 text-left font-normal"
        >
          <span className="flex items-center gap-2">
            <Link
              to={`/shelf/titles/${title.id}`}
              className="min-w-0 flex-1 truncate font-semibold hover:underline"
              title={title.name}
            >
              {title.name}
            </Link>
            <Link
              to={`/bench/verdicts/${title.id}`}
              aria-label={`Which devices play ${title.name}?`}
              title="Which devices play it, rule by rule"
              className="text-quiet hover:text-ink max-sm:hidden"
            >
              <ListChecks size={15} />
            </Link>
            <Checkbox
              checked={able.length > 0 && able.every((cell) => picking.picked.has(cellKey(cell)))}
              disabled={!able.length}
              label={`Pick ${title.name} for every device`}
              onChange={(next) => picking.pick(able, next)}
            />
          </span>
          <span className="block truncate text-[12px] text-quiet">
            {roleWord(title.role)} · {durationText(title.duration_s)} · {title.detail}
          </span>
          <span
            aria-hidden
            className="mt-1 block h-[5px] rounded-full bg-river"
            style={{ width: `${Math.max(3, 100 * share)}%` }}
          />
        </th>
        {before > 0 && <td colSpan={before} aria-hidden className="border-b border-hairline" />}
        {runs.map((run) => (
          <td
            key={run.cells[0]?.target_id}
            colSpan={run.span}
            className="h-[62px] border-b border-hairline p-1"
          >
            <RunCell
              run={run}
              row={row}
              chosen={isChosen(run)}
              partly={isPartly(run)}
              pickTo={picking.pickTo}
              go={go}
            />
          </td>
        ))}
        {after > 0 && <td colSpan={after} aria-hidden className="border-b border-hairline" />}
        {!cells && (
          <td colSpan={devices.length} className="border-b border-hairline p-1">
            <div
              className="h-[52px] reading rounded-lg opacity-50"
              role="status"
              aria-label={`Planning ${title.name}`}
            />
          </td>
        )}
      </tr>
    );
  },
  (before, after) =>
    before.title === after.title &&
    before.cells === after.cells &&
    before.devices === after.devices &&
    before.row === after.row &&
    before.from === after.from &&
    before.to === after.to &&
    before.share === after.share &&
    before.marks === 0 &&
    after.marks === 0 &&
    before.picking.pickTo === after.picking.pickTo,
);

/** What can be recognised in passing. */
function BriefRow({ title, columns }: { title: Row; columns: number }) {
  return (
    <tr style={{ height: ROW_PX }}>
      <th
        scope="row"
        className="sticky left-0 z-10 truncate border-b border-hairline bg-ground py-2 pr-3 text-left font-semibold"
      >
        {title.name}
      </th>
      <td colSpan={columns} className="border-b border-hairline" />
    </tr>
  );
}
