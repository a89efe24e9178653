import { useState } from "react";

import { useChangeDevice } from "../../api/household";
import type { Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { Dialog } from "../../ui/dialog";
import { Field } from "../../ui/field";
import { Notice } from "../../ui/notice";
import { Select } from "../../ui/select";
import { WishesForm } from "./wishes-form";

type Device = Schemas["Device"];

const NOBODY = "nobody";
const GB = 1e9;

/** A device's name, whose it is, what is free on it, and what is liked on it. */
export function DeviceDialog({
  device,
  members,
  onClose,
}: {
  device: Device;
  members: Schemas["Member"][];
  onClose: () => void;
}) {
  const change = useChangeDevice(device.id);
  const [name, setName] = useState(device.name);
  const [free, setFree] = useState(device.free_bytes === null ? "" : String(device.free_bytes / GB));
  const bytes = free.trim() === "" ? null : Number(free.replace(",", ".")) * GB;
  const sensible = bytes === null || (Number.isFinite(bytes) && bytes >= 0);
  const save = () => {
    const changed = {
      ...(name.trim() && name !== device.name ? { name } : {}),
      ...(sensible && bytes !== device.free_bytes
        ? { free_bytes: bytes === null ? null : Math.round(bytes) }
        : {}),
    };
    if (Object.keys(changed).length) change.mutate(changed, { onSuccess: onClose });
    else onClose();
  };
  const member = members.find((entry) => entry.id === device.member_id);
  return (
    <Dialog
      open
      onOpenChange={(next) => !next && onClose()}
      title={device.name}
      about={`${device.profile.name}, ${device.profile.summary}`}
      footer={
        <Button look="primary" onClick={save} disabled={!sensible || change.isPending}>
          Done
        </Button>
      }
    >
      {change.isError && <Notice look="fault">{change.error.message}</Notice>}
      <div className="mb-4 grid grid-cols-2 gap-x-6 gap-y-3 max-md:grid-cols-1">
        <Field label="Its name at home" value={name} onChange={setName} />
        <Field
          label={`Free space in GB${device.storage_bytes ? `, of ${device.storage_bytes / GB}` : ""}`}
          value={free}
          onChange={setFree}
          placeholder="not known"
        />
        <div>
          <span className="mb-1 block text-quiet">Whose is it?</span>
          <Select
            label="Whose is it?"
            value={device.member_id === null ? NOBODY : String(device.member_id)}
            onChange={(next) => change.mutate({ member_id: next === NOBODY ? null : Number(next) })}
            choices={[
              { value: NOBODY, text: "everyone’s" },
              ...members.map((entry) => ({ value: String(entry.id), text: entry.name })),
            ]}
          />
        </div>
      </div>
      {!sensible && <p className="mb-3 text-madder">Say the free space as a number, as in 12.5.</p>}
      <h3 className="mb-2 text-[15px]">What is liked on it</h3>
      <WishesForm
        value={device.wishes}
        onChange={(wishes) => change.mutate(wishes)}
        otherwise={member ? `as ${member.name}` : "as everyone"}
      />
    </Dialog>
  );
}
