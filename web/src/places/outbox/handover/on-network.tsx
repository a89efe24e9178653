import { Tv } from "lucide-react";

import type { Schemas } from "../../../api/client";
import { useShowOnNetwork } from "../../../api/handovers";
import { momentText } from "../../../domain/moments";
import { Button } from "../../../ui/button";
import { Notice } from "../../../ui/notice";

interface Props {
  device: Schemas["DeviceFiles"];
  serverName: string;
  problem: string;
}

/** Whether the home network sees a device’s files: TVs and players find them by themselves then. */
export function OnNetwork({ device, serverName, problem }: Props) {
  const change = useShowOnNetwork(device.device_id);
  const shown = device.network;
  return (
    <section aria-label="Home network" className="mt-4">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
        <Tv size={17} className="text-river" aria-hidden />
        {shown ? (
          <span className="min-w-0 flex-1">
            Shown on the home network: among the sources of a TV as{" "}
            <span className="font-semibold">{serverName}</span>, in the folder{" "}
            <span className="font-semibold">{shown.name}</span>
          </span>
        ) : (
          <span className="min-w-0 flex-1 text-quiet">
            TVs and players of the home network can play them from here, without copying.
          </span>
        )}
        <Button size="small" disabled={change.isPending} onClick={() => change.mutate(!shown)}>
          {shown ? "Stop showing them" : "Show them to TVs"}
        </Button>
      </div>
      {shown && (
        <p className="mt-1 text-[13px] text-quiet">
          {usedText(shown)} Whoever is in this network can play them, until you stop it.
        </p>
      )}
      {shown && problem && <Notice look="fault">{problem}</Notice>}
      {change.isError && <Notice look="fault">{change.error.message}</Notice>}
    </section>
  );
}

function usedText({ seen, fetched, fetched_by }: Schemas["NetworkFolder"]): string {
  if (fetched) return `Last played ${momentText(fetched)}, by ${fetched_by}.`;
  return seen ? `A device looked into the folder ${momentText(seen)}.` : "No device has looked yet.";
}
