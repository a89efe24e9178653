import { useState } from "react";

import { useAddTarget, useSharing } from "../../api/bench";
import type { Schemas } from "../../api/client";
import { sizeText } from "../../domain/sizes";
import { DeviceIcon } from "../../parts/device-icon";
import { Button } from "../../ui/button";
import { Checkbox } from "../../ui/checkbox";
import { Dialog } from "../../ui/dialog";
import { Notice } from "../../ui/notice";
import { Select } from "../../ui/select";
import type { Table } from "./cells";

/** Which devices one file can serve, and the fewest files that serve them all. */
export function ShareFile({
  table,
  open,
  onOpenChange,
}: {
  table: Table;
  open: boolean;
  onOpenChange: (open: boolean) => void;
}) {
  const devices = table.targets.flatMap(({ device_id: id, device_kind: kind, name }) =>
    id === null ? [] : [{ id, kind, name }],
  );
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const [titleId, setTitleId] = useState(String(table.titles[0]?.id ?? ""));
  const chosen = devices.filter((device) => !left.has(device.id));
  const found = useSharing(
    open && titleId ? Number(titleId) : null,
    chosen.map((device) => device.id).join(","),
  );
  const add = useAddTarget();
  const shared = found.data?.files.filter((file) => file.device_ids.length > 1) ?? [];
  const take = async () => {
    for (const file of shared) await add.mutateAsync({ device_ids: file.device_ids });
    onOpenChange(false);
  };
  return (
    <Dialog
      open={open}
      onOpenChange={onOpenChange}
      title="One file for several devices"
      about="Rheon looks for what they all play, and finds the smallest number of files."
      footer={
        <>
          <Button onClick={() => onOpenChange(false)}>Cancel</Button>
          <Button look="primary" disabled={!shared.length || add.isPending} onClick={() => void take()}>
            {shared.length > 1
              ? `Put ${shared.length} shared files on the Bench`
              : "Put the shared file on the Bench"}
          </Button>
        </>
      }
    >
      <div className="mb-3 flex items-center gap-2">
        <span className="text-quiet">For</span>
        <Select
          label="Title"
          value={titleId}
          onChange={setTitleId}
          choices={table.titles.slice(0, 200).map((title) => ({ value: String(title.id), text: title.name }))}
        />
      </div>
      <ul className="mb-4 grid grid-cols-2 gap-x-4 gap-y-1.5 max-md:grid-cols-1">
        {devices.map((device) => (
          <li key={device.id}>
            <label className="flex items-center gap-2">
              <Checkbox
                checked={!left.has(device.id)}
                label={`Serve ${device.name}`}
                onChange={(on) =>
                  setLeft(
                    (old) => new Set(on ? [...old].filter((id) => id !== device.id) : [...old, device.id]),
                  )
                }
              />
              <DeviceIcon kind={device.kind} size={16} />
              <span className="truncate">{device.name}</span>
            </label>
          </li>
        ))}
      </ul>
      {found.isError && <Notice look="fault">{found.error.message}</Notice>}
      {found.data && chosen.length > 0 && <Files found={found.data} devices={devices} />}
      {add.isError && <Notice look="fault">{add.error.message}</Notice>}
    </Dialog>
  );
}

interface FilesProps {
  found: Schemas["Sharing"];
  devices: readonly { id: number; name: string }[];
}

/** The fewest files, whom each serves and what that costs, and who needs none. */
function Files({ found, devices }: FilesProps) {
  const names = (ids: number[]) =>
    ids.map((id) => devices.find((device) => device.id === id)?.name ?? "").join(", ");
  return (
    <section aria-label="Files" aria-live="polite">
      <h3 className="mb-1 text-[15px]">
        {found.files.length === 1
          ? "One file serves them all"
          : `${found.files.length} files; fewer would not do`}
      </h3>
      <ol>
        {found.files.map((file) => (
          <li key={file.device_ids.join()} className="border-t border-hairline py-2">
            <p className="font-semibold">{names(file.device_ids)}</p>
            <p className="text-[13px] text-quiet">
              {file.summary}
              {file.estimate && ` · ${sizeText(file.estimate.size_bytes)}`}
            </p>
            {file.costs.map((cost) => (
              <p key={cost} className="text-[13px] text-marigold-text">
                {cost}
              </p>
            ))}
          </li>
        ))}
      </ol>
      {found.as_it_is.length > 0 && (
        <p className="border-t border-hairline py-2 text-quiet">
          Plays the title as it is, so no file is needed: {names(found.as_it_is)}
        </p>
      )}
      {found.impossible.length > 0 && (
        <p className="border-t border-hairline py-2 text-quiet">
          Nothing can be made for: {names(found.impossible)}
        </p>
      )}
    </section>
  );
}
