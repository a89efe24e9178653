import { X } from "lucide-react";

import { useRemoveTarget } from "../../api/bench";
import { sizeText } from "../../domain/sizes";
import { DeviceIcon } from "../../parts/device-icon";
import { Button } from "../../ui/button";
import { Checkbox } from "../../ui/checkbox";
import { canMake, type Cell, cellKey, type Target, totalOf } from "./cells";
import type { Picking } from "./picking";

/** A device, what it is, and whether what is picked for it still fits. */
export function ColumnHead({ column, cells, picking }: { column: Target; cells: Cell[]; picking: Picking }) {
  const remove = useRemoveTarget();
  const able = cells.filter(canMake);
  const all = able.length > 0 && able.every((cell) => picking.picked.has(cellKey(cell)));
  return (
    <th
      scope="col"
      className="sticky top-0 z-10 border-y border-hairline bg-ground px-2 py-2.5 text-left align-top font-normal"
    >
      <span className="flex items-center gap-2">
        <DeviceIcon kind={column.device_kind} />
        <span className="min-w-0 truncate font-semibold" title={column.name}>
          {column.name}
        </span>
        <span className="ml-auto flex items-center gap-1.5">
          {column.kind !== "device" && (
            <Button
              look="quiet"
              size="icon"
              className="size-5"
              aria-label={`Take ${column.name} off the Bench`}
              onClick={() => remove.mutate(column.id)}
            >
              <X size={13} />
            </Button>
          )}
          <Checkbox
            checked={all}
            disabled={!able.length}
            label={`Pick everything for ${column.name}`}
            onChange={(next) => picking.pickWhole(column.id, next)}
          />
        </span>
      </span>
      <span className="block truncate text-[12px] text-quiet" title={column.detail}>
        {column.kind === "device" ? column.model : column.detail}
      </span>
      <Room column={column} picked={cells.filter((cell) => picking.picked.has(cellKey(cell)))} />
    </th>
  );
}

/**
 * What is picked for a device against what is free on it, and the largest file against what it takes at
 * once.
 */
function Room({ column, picked }: { column: Target; picked: Cell[] }) {
  const { bytes, largest } = totalOf(picked);
  const limit = column.largest_file_bytes;
  const free = column.free_bytes;
  const plain =
    column.kind === "device" ? column.detail : column.kind === "shared" ? "share one file" : "a purpose";
  if (!bytes) return <Told text={free === null ? plain : `${sizeText(free)} free`} />;
  return (
    <>
      <Told
        text={free === null ? `${sizeText(bytes)} in all` : `${sizeText(bytes)} of ${sizeText(free)} free`}
        over={free !== null && bytes > free}
      />
      {limit !== null && (
        <Told
          text={`largest ${sizeText(largest)} of ${sizeText(limit)}`}
          hint={`The largest file is ${sizeText(largest)}; it takes files up to ${sizeText(limit)}`}
          over={largest > limit}
        />
      )}
    </>
  );
}

function Told({ text, hint = text, over = false }: { text: string; hint?: string; over?: boolean }) {
  return (
    <span
      className={`block truncate text-[12px] ${over ? "font-semibold text-madder" : "text-quiet"}`}
      title={hint}
    >
      {text}
      {over ? ": too much" : ""}
    </span>
  );
}
