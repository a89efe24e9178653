import type { KeyboardEvent } from "react";
import { Link, useNavigate } from "react-router";

import type { Schemas } from "../../api/client";
import { durationText, spanText } from "../../domain/durations";
import { sizeText } from "../../domain/sizes";
import { DeviceIcon } from "../../parts/device-icon";
import { roleWord } from "../../parts/roles";
import { Checkbox } from "../../ui/checkbox";
import { cellLooks } from "./cell.looks";
import { canMake, type Cell, cellKey, type CellRun, runsOf, type Table } from "./cells";

interface Props {
  table: Table;
  picked: ReadonlySet<string>;
  onPick: (cells: Cell[], picked: boolean) => void;
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

export function CrossingTable({ table, picked, onPick }: Props) {
  const longest = Math.max(1, ...table.titles.map((title) => title.duration_s));
  return (
    <div className="overflow-x-auto px-6 max-md:px-3">
      <table className="w-full border-separate border-spacing-0" onKeyDown={moveFocus}>
        <thead>
          <tr>
            <th scope="col" className="sticky left-0 z-10 w-[200px] min-w-[200px] border-y border-hairline bg-ground pr-4 pb-2 text-left align-bottom text-[12px] font-normal text-quiet max-md:min-w-[140px]">
              Titles down, devices across
            </th>
            {table.devices.map((device) => (
              <DeviceHead key={device.id} device={device} cells={table.cells.filter((cell) => cell.device_id === device.id)} picked={picked} onPick={onPick} />
            ))}
          </tr>
        </thead>
        <tbody>
          {table.titles.map((title, row) => (
            <tr key={title.id}>
              <th scope="row" className="sticky left-0 z-10 border-b border-hairline bg-ground py-2 pr-4 text-left font-normal">
                <Link to={`/shelf/titles/${title.id}`} className="block max-w-[200px] truncate font-semibold hover:underline" title={title.name}>
                  {title.name}
                </Link>
                <span className="block truncate text-[12px] text-quiet">
                  {roleWord(title.role)} · {durationText(title.duration_s)} · {title.detail}
                </span>
                <span aria-hidden className="mt-1 block h-[5px] rounded-full bg-river" style={{ width: `${Math.max(3, (100 * title.duration_s) / longest)}%` }} />
              </th>
              {runsOf(table, title.id).map((run) => (
                <td key={run.cells[0]?.device_id} colSpan={run.span} className="h-[62px] border-b border-hairline p-1">
                  <RunCell run={run} row={row} picked={picked} onPick={onPick} />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

type Column = Schemas["Column"];

function DeviceHead({ device, cells, picked, onPick }: { device: Column; cells: Cell[] } & Omit<Props, "table">) {
  const able = cells.filter(canMake);
  const all = able.length > 0 && able.every((cell) => picked.has(cellKey(cell)));
  return (
    <th scope="col" className="min-w-[148px] border-y border-hairline px-2 py-2.5 text-left align-top font-normal">
      <span className="flex items-center gap-2">
        <DeviceIcon kind={device.kind} />
        <span className="min-w-0 truncate font-semibold" title={device.name}>
          {device.name}
        </span>
        <span className="ml-auto">
          <Checkbox checked={all} disabled={!able.length} label={`Pick everything for ${device.name}`} onChange={(next) => onPick(able, next)} />
        </span>
      </span>
      <span className="block text-[12px] text-quiet">{device.model}</span>
      <span className="block text-[12px] text-quiet">{device.detail}</span>
    </th>
  );
}

const WORDS: Record<Cell["verdict"], string> = { plays: "Plays as it is", rewrap: "Re-wrap", convert: "Convert", cannot: "Can’t" };

function RunCell({ run, row, picked, onPick }: { run: CellRun; row: number } & Omit<Props, "table">) {
  const navigate = useNavigate();
  const cell = run.cells[0];
  if (!cell) return null;
  const able = run.cells.filter(canMake);
  const chosen = able.length > 0 && able.every((entry) => picked.has(cellKey(entry)));
  const { estimate } = cell;
  const address = `/bench/${cell.title_id}/${cell.device_id}`;
  return (
    <div className={`relative h-full rounded-lg ${chosen ? "ring-2 ring-marigold" : ""}`}>
      <Link
        to={address}
        data-row={row}
        title={cell.reason}
        className={cellLooks({ verdict: cell.verdict })}
        onKeyDown={(event) => {
          if (event.key === " " && able.length) {
            event.preventDefault();
            onPick(able, !chosen);
          } else if (event.key === "Enter") void navigate(address);
        }}
      >
        <span className="truncate pr-5 font-semibold">
          {WORDS[cell.verdict]}
          {run.span > 1 && ` · one file for ${run.span}`}
          {cell.by_hand && <span className="font-normal text-mist-quiet"> · set by hand</span>}
        </span>
        <span className="truncate text-[12.5px] text-mist-quiet">
          {estimate ? `${sizeText(estimate.size_bytes)} · ${spanText(estimate.time_s)}${cell.surround ? " · surround" : ""}` : cell.verdict === "plays" ? "nothing to make" : cell.reason}
        </span>
      </Link>
      {able.length > 0 && (
        <span className="absolute top-2 right-2">
          <Checkbox checked={chosen} label={`Pick ${WORDS[cell.verdict].toLowerCase()} for ${run.span} ${run.span === 1 ? "device" : "devices"}`} onChange={(next) => onPick(able, next)} />
        </span>
      )}
    </div>
  );
}
