import { useParams } from "react-router";

import { useOutbox } from "../../api/queries";
import { BY_DEVICE } from "./groups";
import { DevicesView } from "./handover/devices-view";
import { OutboxHead } from "./outbox-head";

/** The Outbox by device: what is on its way onto each. */
export function OutboxDevices() {
  const outbox = useOutbox();
  const { deviceId } = useParams();
  return (
    <div className="flex flex-1 flex-col">
      <OutboxHead outbox={outbox} group={BY_DEVICE} />
      <DevicesView chosenId={deviceId ? Number(deviceId) : undefined} />
    </div>
  );
}
