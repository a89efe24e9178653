import { useState } from "react";
import { Link, useNavigate } from "react-router";

import type { Schemas } from "../../../api/client";
import { useHandovers } from "../../../api/handovers";
import { sizeText } from "../../../domain/sizes";
import { Button } from "../../../ui/button";
import { Empty, NotYet } from "../../../ui/states";
import { DeviceBoard } from "./device-board";
import { StorageBar } from "./storage-bar";
import { LIBRARY, saidOf } from "./files";

/** The Outbox by where things go: every device with its storage, and what is on its way there. */
export function DevicesView({ chosenId }: { chosenId: number | undefined }) {
  const [leftOut, setLeftOut] = useState<Record<number, number[]>>({});
  const navigate = useNavigate();
  const query = useHandovers(chosenId, chosenId === undefined ? [] : leftOut[chosenId]);
  const all = query.data;
  const device = all?.devices.find(({ device_id }) => device_id === chosenId) ?? all?.devices[0];
  if (!all) return <NotYet query={query} what="the devices" />;
  if (!device)
    return (
      <Empty
        title="Nothing to hand over yet"
        action={
          <Button look="primary" asChild>
            <Link to="/bench">Go to the Bench</Link>
          </Button>
        }
      >
        What is made for a device shows here, with the stick, card or player that it goes onto.
      </Empty>
    );
  return (
    <div className="grid flex-1 grid-cols-[minmax(280px,38%)_minmax(0,1fr)] border-t border-hairline max-md:grid-cols-1 md:h-[calc(100dvh-129px)] md:flex-none">
      <ul
        aria-label="Devices"
        className={`overflow-y-auto border-r border-hairline ${chosenId === undefined ? "" : "max-md:hidden"}`}
      >
        {all.devices.map((one) => (
          <li key={one.device_id}>
            <DeviceRow device={one} shown={one === device} />
          </li>
        ))}
      </ul>
      <div className={`min-h-0 min-w-0 md:contents ${chosenId === undefined ? "max-md:hidden" : ""}`}>
        <Link to="/outbox/devices" className="block px-3 py-2 font-semibold text-river md:hidden">
          ← All devices
        </Link>
        <DeviceBoard
          key={device.device_id}
          device={device}
          all={all}
          leftOut={leftOut[device.device_id] ?? []}
          onLeaveOut={(outputs) => {
            setLeftOut((old) => ({ ...old, [device.device_id]: outputs }));
            void navigate(`/outbox/devices/${device.device_id}`, { replace: true });
          }}
        />
      </div>
    </div>
  );
}

function DeviceRow({ device, shown }: { device: Schemas["DeviceFiles"]; shown: boolean }) {
  const { storage } = device;
  return (
    <Link
      to={`/outbox/devices/${device.device_id}`}
      aria-current={shown}
      className={`block border-b border-l-4 border-hairline py-2.5 pr-4 pl-5 ${shown ? "border-l-marigold bg-raised" : "border-l-transparent"}`}
    >
      <span className="flex items-baseline gap-3">
        <span className="min-w-0 flex-1 truncate font-semibold" title={device.device_name}>
          {device.device_name}
        </span>
        <span className="text-[12.5px] font-semibold text-quiet">{saidOf(device)}</span>
      </span>
      <span className="mb-1.5 block truncate text-[12.5px] text-quiet">{whereText(device)}</span>
      {storage && <StorageBar facts={storage} label={storage.label} />}
    </Link>
  );
}

function whereText({ device_id, storage, network }: Schemas["DeviceFiles"]): string {
  if (!storage && network) return "shown to TVs of the home network";
  if (!storage)
    return device_id === LIBRARY
      ? "a folder or disk that keeps everything, if you have one"
      : "nobody has said yet where its files go";
  const free = storage.free_bytes === null ? "" : ` · ${sizeText(storage.free_bytes)} free`;
  return `${storage.label}${storage.here ? "" : ", not there now"}${free}`;
}
