import { Check, QrCode } from "lucide-react";
import { useState } from "react";

import type { Schemas } from "../../../api/client";
import { useOpenPickUp, usePickUp } from "../../../api/pick-up";
import { sizeText } from "../../../domain/sizes";
import { CodeCard } from "../../../parts/code-card";
import { Button } from "../../../ui/button";
import { Dialog } from "../../../ui/dialog";
import { Notice } from "../../../ui/notice";
import { NotYet } from "../../../ui/states";

const clock = (moment: string) =>
  new Date(moment).toLocaleTimeString([], { hour: "2-digit", minute: "2-digit" });

/** Opens the page for picking these files up, and shows the way to it. */
export function PickUpButton({
  outputs,
  deviceId,
  deviceName,
}: {
  outputs: number[];
  deviceId: number | null;
  deviceName: string;
}) {
  const [shown, setShown] = useState(false);
  const opening = useOpenPickUp(() => setShown(true));
  return (
    <>
      <Button
        size="small"
        disabled={opening.isPending || !outputs.length}
        onClick={() => opening.mutate({ outputs, device_id: deviceId })}
        aria-label={`Pick-up code for ${deviceName}`}
      >
        <QrCode size={14} aria-hidden /> Pick-up code
      </Button>
      {opening.isError && <Notice look="fault">{opening.error.message}</Notice>}
      <PickUpDialog open={shown} onOpenChange={setShown} />
    </>
  );
}

/** In the Outbox's head, as long as the page is open. */
export function PickUpOpen() {
  const { data } = usePickUp();
  const [shown, setShown] = useState(false);
  if (!data?.open && !shown) return null;
  return (
    <>
      {data?.open && data.until && (
        <Button onClick={() => setShown(true)}>
          <QrCode size={15} aria-hidden /> Pick-up open until {clock(data.until)}
        </Button>
      )}
      <PickUpDialog open={shown} onOpenChange={setShown} />
    </>
  );
}

function PickUpDialog({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const query = usePickUp();
  const shut = useOpenPickUp(() => onOpenChange(false));
  const said = query.data;
  return (
    <Dialog
      open={open}
      onOpenChange={onOpenChange}
      title={said?.device_name ? `Pick up with ${said.device_name}` : "Pick files up"}
      about="For a phone, tablet or TV on the same home network: its browser plays these files or saves them."
      footer={
        <>
          {said?.open && (
            <Button className="mr-auto" disabled={shut.isPending} onClick={() => shut.mutate(null)}>
              Shut the page
            </Button>
          )}
          <Button onClick={() => onOpenChange(false)}>Close</Button>
        </>
      }
    >
      <NotYet query={query} what="the page" />
      {said?.problem && <Notice look="fault">{said.problem}</Notice>}
      {said && !said.open && !said.problem && <p className="text-quiet">The page is shut.</p>}
      {said?.open && (
        <>
          <CodeCard opened={said}>
            <p className="text-quiet">
              {said.until && `It is open until ${clock(said.until)}, with these files alone.`} Closing this
              window leaves it open.
            </p>
          </CodeCard>
          <Files files={said.files} />
        </>
      )}
    </Dialog>
  );
}

function Files({ files }: { files: Schemas["PickedUp"][] }) {
  return (
    <ul className="mt-4 border-t border-hairline" aria-label="Files to pick up">
      {files.map((file) => (
        <li key={file.output_id} className="flex items-baseline gap-3 border-b border-hairline py-1.5">
          <span className="min-w-0 flex-1 truncate" title={file.file_name}>
            {file.file_name}
          </span>
          <span className="text-quiet">{sizeText(file.size_bytes)}</span>
          {file.fetched && (
            <span className="flex items-center gap-1 text-[13px] font-semibold text-moss">
              <Check size={14} aria-hidden /> fetched at {clock(file.fetched)}
            </span>
          )}
        </li>
      ))}
    </ul>
  );
}
