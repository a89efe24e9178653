import { X } from "lucide-react";

import { useRemoveColumn } from "../../api/bench";
import { sizeText } from "../../domain/sizes";
import { DeviceIcon } from "../../parts/device-icon";
import { Button } from "../../ui/button";
import { Checkbox } from "../../ui/checkbox";
import { canMake, type Cell, cellKey, type Column, totalOf } from "./cells";
import type { Picking } from "./picking";

/** A device, what it is, and whether what is picked for it still fits. */
export function ColumnHead({ column, cells, picking }: { column: Column; cells: Cell[]; picking: Picking }) {
  const remove = useRemoveColumn();
  const able = cells.filter(canMake);
  const all = able.length > 0 && able.every((cell) => picking.picked.has(cellKey(cell)));
  return (
    <th scope="col" className="sticky top-0 z-10 border-y border-hairline bg-ground px-2 py-2.5 text-left align-top font-normal">
      <span className="flex items-center gap-2">
        <DeviceIcon kind={column.kind} />
        <span className="min-w-0 truncate font-semibold" title={column.name}>
          {column.name}
        </span>
        <span className="ml-auto flex items-center gap-1.5">
          {column.column !== "device" && (
            <Button look="quiet" size="icon" className="size-5" aria-label={`Take ${column.name} off the Bench`} onClick={() => remove.mutate(column.id)}>
              <X size={13} />
            </Button>
          )}
          <Checkbox checked={all} disabled={!able.length} label={`Pick everything for ${column.name}`} onChange={(next) => picking.pick(able, next)} />
        </span>
      </span>
      <span className="block truncate text-[12px] text-quiet" title={column.detail}>
        {column.column === "device" ? column.model : column.detail}
      </span>
      <Room column={column} picked={cells.filter((cell) => picking.picked.has(cellKey(cell)))} />
    </th>
  );
}

function Room({ column, picked }: { column: Column; picked: Cell[] }) {
  if (column.column !== "device") return <span className="block text-[12px] text-quiet">{column.column === "shared" ? "share one file" : "a purpose"}</span>;
  if (column.free_bytes === null) return <span className="block truncate text-[12px] text-quiet">{column.detail}</span>;
  const bytes = totalOf(picked).bytes;
  const over = bytes > column.free_bytes;
  return (
    <span className={`block truncate text-[12px] ${over ? "font-semibold text-madder" : "text-quiet"}`}>
      {bytes ? `${sizeText(bytes)} of ` : ""}
      {sizeText(column.free_bytes)} free{over ? ": too much" : ""}
    </span>
  );
}
