import { useState } from "react";

import { useHousehold } from "../../api/household";
import { PlaceHead } from "../../parts/place-head";
import { useUndo } from "../../parts/undo";
import { Button } from "../../ui/button";
import { Empty, NotYet } from "../../ui/states";
import { AddDevice } from "./add-device";
import { AskDevice } from "./ask-device";
import { DeviceCard } from "./device-card";
import { People } from "./people";

export function HouseholdPlace() {
  const household = useHousehold();
  const [adding, setAdding] = useState(false);
  const [asking, setAsking] = useState(false);
  const { gone } = useUndo();
  const devices = (household.data?.devices ?? []).filter((device) => !gone("device", device.id));
  return (
    <div className="flex-1 pb-8">
      <PlaceHead
        name="Household"
        about={
          household.data
            ? `${devices.length} ${devices.length === 1 ? "device" : "devices"}, favourites and the usual ones first`
            : undefined
        }
      >
        <Button onClick={() => setAsking(true)}>Ask a device</Button>
        <Button look="primary" onClick={() => setAdding(true)}>
          Add a device
        </Button>
      </PlaceHead>
      <NotYet query={household} what="the Household" />
      {household.data && <People household={household.data} />}
      {household.data && !devices.length && (
        <Empty
          title="No devices yet"
          action={
            <Button look="primary" onClick={() => setAdding(true)}>
              Add a device
            </Button>
          }
        >
          Say what you watch on. Rheon knows what each of them can play and makes files that fit.
        </Empty>
      )}
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(360px,1fr))] gap-4 px-6 max-md:grid-cols-1 max-md:px-3">
        {devices.map((device) => (
          <DeviceCard key={device.id} device={device} members={household.data?.members ?? []} />
        ))}
      </ul>
      {household.data && <AddDevice open={adding} onOpenChange={setAdding} household={household.data} />}
      {asking && household.data && (
        <AskDevice open={asking} onOpenChange={setAsking} devices={household.data.devices} />
      )}
    </div>
  );
}
