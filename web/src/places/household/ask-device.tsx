import { useState } from "react";

import { useAddOwnDevice, useAsking, useDoor } from "../../api/household";
import type { Schemas } from "../../api/client";
import { Bar } from "../../ui/bar";
import { Button } from "../../ui/button";
import { Dialog } from "../../ui/dialog";
import { Field } from "../../ui/field";
import { Notice } from "../../ui/notice";
import { Failed, Loading } from "../../ui/states";
import { Capabilities } from "./device-card";
import { EvidenceList } from "./evidence-list";

type Asking = Schemas["Asking"];

/** Lets a device find out by itself what it plays: a page for its browser, behind a code that opens once. */
export function AskDevice({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const asking = useAsking();
  const door = useDoor();
  const own = useAddOwnDevice();
  const [name, setName] = useState("");
  const said = asking.data;
  const add = () => said?.document && own.mutate({ document: JSON.stringify(said.document), name }, { onSuccess: () => onOpenChange(false) });
  return (
    <Dialog
      open={open}
      onOpenChange={onOpenChange}
      title="Ask the device itself"
      about="Open a page in its browser; it plays a few tiny clips there and tells Rheon what works."
      footer={
        <>
          {said?.open && <Button className="mr-auto" onClick={() => door.mutate(false)}>Turn the page off</Button>}
          {Boolean(said?.document) && <Button className="mr-auto" onClick={() => door.mutate(false)}>Drop the answers</Button>}
          <Button onClick={() => onOpenChange(false)}>Close</Button>
          {said?.document ? (
            <Button look="primary" disabled={own.isPending} onClick={add}>Add this device</Button>
          ) : (
            !said?.open && <Button look="primary" disabled={door.isPending || !said} onClick={() => door.mutate(true)}>Turn the page on</Button>
          )}
        </>
      }
    >
      {asking.isPending && <Loading what="the page" />}
      {asking.isError && <Failed error={asking.error} onRetry={() => void asking.refetch()} />}
      {(door.isError || own.isError) && <Notice look="fault">{(door.error ?? own.error)?.message}</Notice>}
      {said?.problem && (
        <div className="mb-3">
          <Notice look="fault">{said.problem}</Notice>
        </div>
      )}
      {said && !said.open && !said.document && (
        <p className="text-quiet">
          The page is off. Turned on, it is the only thing of Rheon that the home network can reach: for a quarter of an hour, for one device, and only with a code that is shown here.
        </p>
      )}
      {said?.open && <Open asking={said} />}
      {Boolean(said?.document) && said && (
        <>
          <Field label="Its name at home" value={name} onChange={setName} placeholder="The device that was asked" />
          <Capabilities facts={said.capabilities} />
          <EvidenceList evidence={said.evidence} />
        </>
      )}
    </Dialog>
  );
}

function Open({ asking }: { asking: Asking }) {
  const until = asking.until ? new Date(asking.until).toLocaleTimeString([], { hour: "2-digit", minute: "2-digit" }) : "";
  return (
    <div className="flex flex-wrap items-center gap-6">
      <svg viewBox={`-4 -4 ${asking.qr_size + 8} ${asking.qr_size + 8}`} role="img" aria-label="The address with its code, as a QR code" className="size-48 shrink-0 rounded-lg bg-print-light" shapeRendering="crispEdges">
        <path d={asking.qr} className="fill-print-dark" />
      </svg>
      <div className="min-w-56 flex-1">
        <p className="text-quiet">Scan this with the device, or type into its browser:</p>
        <p className="my-1 text-[17px] font-semibold break-all">{asking.address}</p>
        <p className="text-quiet">and the code</p>
        <p className="my-1 font-heading text-[26px] font-semibold tracking-[0.15em]">{asking.code}</p>
        <p className="text-quiet">The code opens once, until {until}.</p>
        {asking.at_clip > 0 && (
          <div className="mt-3" role="status">
            <Bar fraction={asking.at_clip / asking.clip_count} label="Clips tried" />
            <p className="mt-1 text-quiet">
              The device is at clip {asking.at_clip} of {asking.clip_count}.
            </p>
          </div>
        )}
      </div>
    </div>
  );
}
