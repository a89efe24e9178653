import { useState } from "react";

import type { Schemas } from "../../api/client";
import { useHousehold, useRemoveDevice } from "../../api/queries";
import { DeviceIcon } from "../../parts/device-icon";
import { PlaceHead } from "../../parts/place-head";
import { Button } from "../../ui/button";
import { Empty, Failed, Loading } from "../../ui/states";
import { AddDevice } from "./add-device";
import { Languages } from "./languages";

type Device = Schemas["Device"];

export function HouseholdPlace() {
  const household = useHousehold();
  const [adding, setAdding] = useState(false);
  const devices = household.data?.devices ?? [];
  return (
    <div className="flex-1 pb-8">
      <PlaceHead name="Household" about={household.data ? `${devices.length} ${devices.length === 1 ? "device" : "devices"}` : undefined}>
        {household.data && <Languages languages={household.data.languages} />}
        <Button look="primary" onClick={() => setAdding(true)}>
          Add a device
        </Button>
      </PlaceHead>
      {household.isPending && <Loading what="the Household" />}
      {household.isError && <Failed error={household.error} onRetry={() => void household.refetch()} />}
      {household.data && !devices.length && (
        <Empty title="No devices yet" action={<Button look="primary" onClick={() => setAdding(true)}>Add a device</Button>}>
          Say what you watch on. Rheon knows what each of them can play and makes files that fit.
        </Empty>
      )}
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(360px,1fr))] gap-4 px-6 max-md:grid-cols-1 max-md:px-3">
        {devices.map((device) => (
          <DeviceCard key={device.id} device={device} />
        ))}
      </ul>
      {household.data && <AddDevice open={adding} onOpenChange={setAdding} catalogue={household.data.catalogue} />}
    </div>
  );
}

function DeviceCard({ device }: { device: Device }) {
  const remove = useRemoveDevice();
  const [sure, setSure] = useState(false);
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
      </div>
      <p className="mt-2 text-[13px] text-quiet">{device.profile.about}</p>
      <dl className="mt-3 grid grid-cols-[74px_1fr] gap-x-3 gap-y-1.5 text-[13px]">
        {device.capabilities.map((fact) => (
          <div key={fact.topic} className="contents">
            <dt className="text-quiet">{fact.topic}</dt>
            <dd>{fact.text.charAt(0).toUpperCase() + fact.text.slice(1)}</dd>
          </div>
        ))}
      </dl>
      <div className="mt-auto flex justify-end gap-3 pt-3">
        {sure ? (
          <>
            <span className="text-quiet">Remove it and its settings?</span>
            <Button look="link" size="text" onClick={() => remove.mutate(device.id)}>Remove</Button>
            <Button look="quiet" size="text" onClick={() => setSure(false)}>Keep</Button>
          </>
        ) : (
          <>
          <Button look="quiet" size="text" asChild>
            <a href={`/api/household/devices/${device.id}/profile.json`} download aria-label={`Save profile of ${device.name}`}>
              Save profile
            </a>
          </Button>
          <Button look="quiet" size="text" onClick={() => setSure(true)} aria-label={`Remove ${device.name}`}>Remove</Button>
          </>
        )}
      </div>
    </li>
  );
}
