import { memo, type MouseEvent } from "react";
import type { NavigateFunction } from "react-router";

import { under } from "../../api/base";
import { spanText } from "../../domain/durations";
import { sizeText } from "../../domain/sizes";
import { Checkbox } from "../../ui/checkbox";
import { cellLooks } from "./cell.looks";
import { canMake, type Cell, type CellRun } from "./cells";
import type { Picking } from "./picking";

const WORDS: Record<Cell["verdict"], string> = {
  plays: "Plays as it is",
  rewrap: "Re-wrap",
  convert: "Convert",
  cannot: "Can’t",
};

/** What tells a cell from its neighbours: size and time where something is made, else the verdict. */
function headline(cell: Cell): string {
  const { estimate } = cell;
  return estimate ? `${sizeText(estimate.size_bytes)} · ${spanText(estimate.time_s)}` : WORDS[cell.verdict];
}

function detail(cell: Cell): string {
  if (cell.estimate) return `${WORDS[cell.verdict].toLowerCase()}${cell.surround ? " · surround" : ""}`;
  return cell.verdict === "plays" ? "nothing to make" : cell.reason;
}

/** What is odd about a cell, in a few words; it goes before how large and how long. */
function warning(cell: Cell): string {
  if (cell.broken) return `breaks ${cell.broken} ${cell.broken === 1 ? "rule" : "rules"}`;
  return cell.too_large ? "more than is free" : "";
}

/** Whether a click means to stay in this tab. */
const plainly = (event: MouseEvent) =>
  event.button === 0 && !event.metaKey && !event.ctrlKey && !event.shiftKey && !event.altKey;

interface Props {
  run: CellRun;
  row: number;
  /** Whether all that it stands for is picked, and whether only some of it is. */
  chosen: boolean;
  partly: boolean;
  pickTo: Picking["pickTo"];
  go: NavigateFunction;
}

/**
 * One file's cell, over all the neighbouring devices that it serves. A plain link: hundreds are drawn at
 * once.
 */
export const RunCell = memo(function RunCell({ run, row, chosen, partly, pickTo, go }: Props) {
  const cell = run.cells[0];
  if (!cell) return null;
  const able = run.cells.filter(canMake);
  const address = `/bench/${cell.title_id}/${cell.target_id}`;
  const odd = warning(cell);
  return (
    <div
      className={`relative h-full rounded-lg ${chosen ? "ring-2 ring-marigold" : partly ? "ring-1 ring-marigold" : ""}`}
    >
      <a
        href={under(address)}
        onClick={(event) => plainly(event) && (event.preventDefault(), void go(address))}
        data-row={row}
        title={cell.reason}
        className={cellLooks({ verdict: cell.verdict })}
        onKeyDown={(event) => {
          if (event.key === " " && able.length) {
            event.preventDefault();
            pickTo(able, event.shiftKey || !chosen, event.shiftKey);
          }
        }}
      >
        <span className="truncate pr-5 font-semibold">
          {headline(cell)}
          {run.span > 1 && ` · one file for ${run.span}`}
          {cell.by_hand && <span className="font-normal text-mist-quiet"> · set by hand</span>}
        </span>
        <span className="truncate text-[12.5px] text-mist-quiet">
          {odd && <span className="font-semibold text-madder">{odd} · </span>}
          {detail(cell)}
        </span>
      </a>
      {able.length > 0 && (
        <span className="absolute top-2 right-2">
          <Checkbox
            checked={chosen}
            partly={partly}
            label={`Pick ${WORDS[cell.verdict].toLowerCase()} for ${run.span} ${run.span === 1 ? "device" : "devices"}`}
            onChange={(next, range) => pickTo(able, range || next, range)}
          />
        </span>
      )}
    </div>
  );
});
