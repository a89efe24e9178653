import { useState } from "react";
import { Link } from "react-router";

import { useRemoveDevice } from "../../api/household";
import { under } from "../../api/base";
import type { Schemas } from "../../api/client";
import { sizeText } from "../../domain/sizes";
import { DeviceIcon } from "../../parts/device-icon";
import { useUndo } from "../../parts/undo";
import { Button } from "../../ui/button";
import { DeviceDialog } from "./device-dialog";
import { EvidenceList } from "./evidence-list";
import type { Entry } from "./profile-fields";
import { TechnicalTable } from "./technical-table";
import { wishesText } from "./wishes-form";

type Device = Schemas["Device"];

/** One device: whose it is, what it plays in words, and what that rests on where it was asked itself. */
export function DeviceCard({ device, members }: { device: Device; members: Schemas["Member"][] }) {
  const forget = useRemoveDevice();
  const { remove } = useUndo();
  const [open, setOpen] = useState(false);
  const member = members.find((entry) => entry.id === device.member_id);
  const facts = [member?.name, wishesText(device.wishes), device.free_bytes !== null && `${sizeText(device.free_bytes)} free`, device.used && `${device.used} ${device.used === 1 ? "file" : "files"} made`];
  return (
    <li className="flex flex-col rounded-card border border-hairline bg-raised p-4">
      <div className="flex items-start gap-3">
        <DeviceIcon kind={device.profile.kind} size={22} />
        <div className="min-w-0 flex-1">
          <h2 className="truncate text-[17px]" title={device.name}>{device.name}</h2>
          <p className="text-quiet">
            {device.profile.name}
            {device.profile.year ? ` · ${device.profile.year}` : ""} · {device.profile.summary}
          </p>
        </div>
        <Button size="small" onClick={() => setOpen(true)} aria-label={`Wishes and space of ${device.name}`}>
          Wishes
        </Button>
      </div>
      {facts.some(Boolean) && <p className="mt-2 rounded-md bg-sand px-2 py-1 text-[13px]">{facts.filter(Boolean).join(" · ")}</p>}
      <p className="mt-2 text-[13px] text-quiet">{device.profile.about}</p>
      <Capabilities facts={device.capabilities} />
      <TechnicalTable document={device.document as Entry} />
      {device.evidence.length > 0 && <EvidenceList evidence={device.evidence} />}
      <div className="mt-auto flex justify-end gap-3 pt-3">
        <>
            <Button look="quiet" size="text" asChild>
              <Link to={`/household/${device.id}`} aria-label={`Edit profile of ${device.name}`}>Edit profile</Link>
            </Button>
            <Button look="quiet" size="text" asChild>
              <a href={under(`/api/household/devices/${device.id}/profile.json`)} download aria-label={`Save profile of ${device.name}`}>
                Save profile
              </a>
            </Button>
            <Button look="quiet" size="text" onClick={() => remove({ kind: "device", id: device.id, text: `${device.name} and its settings are removed.`, run: () => forget.mutateAsync(device.id) })} aria-label={`Remove ${device.name}`}>Remove</Button>
        </>
      </div>
      {open && <DeviceDialog device={device} members={members} onClose={() => setOpen(false)} />}
    </li>
  );
}

export function Capabilities({ facts }: { facts: Schemas["Capability"][] }) {
  return (
    <dl className="mt-3 grid grid-cols-[74px_1fr] gap-x-3 gap-y-1.5 text-[13px]">
      {facts.map((fact) => (
        <div key={fact.topic} className="contents">
          <dt className="text-quiet">{fact.topic}</dt>
          <dd>{fact.text.charAt(0).toUpperCase() + fact.text.slice(1)}</dd>
        </div>
      ))}
    </dl>
  );
}
