import { Check, TriangleAlert } from "lucide-react";
import { Link } from "react-router";

import type { Schemas } from "../../../api/client";
import { useHandOver, useStopHandover } from "../../../api/handovers";
import { sizeText } from "../../../domain/sizes";
import { Bar } from "../../../ui/bar";
import { DROP_MARKS, isBelow, RowHandle } from "../../../parts/row-handle";
import type { useRowOrder } from "../../../parts/row-order";
import { Button } from "../../../ui/button";
import { Checkbox } from "../../../ui/checkbox";
import { Menu } from "../../../ui/menu";
import { doesNotFit, isUnderWay } from "./files";

type File = Schemas["FileForDevice"];

interface Props {
  deviceId: number;
  file: File;
  /** Where it goes, by name; nothing where nobody has said that yet. */
  storage: Schemas["Storage"] | null;
  picked: boolean;
  onPick: (picked: boolean) => void;
  /** Where it can be moved among the others, what does it. */
  order: Pick<ReturnType<typeof useRowOrder>, "acts" | "markOf"> | null;
}

const COLUMNS =
  "grid-cols-[20px_minmax(0,1fr)_76px_minmax(150px,30%)] max-lg:grid-cols-[20px_minmax(0,1fr)_72px]";
const WITH_HANDLE =
  "grid-cols-[24px_20px_minmax(0,1fr)_76px_minmax(150px,30%)] max-lg:grid-cols-[24px_20px_minmax(0,1fr)_72px]";

/** A file on its way onto a device. */
export function FileRow({ deviceId, file, storage, picked, onPick, order }: Props) {
  const isOpen = file.state === "ready" || file.state === "gone" || file.state === "left_out";
  return (
    <li
      className={`grid items-center gap-x-3 border-b border-hairline py-2 ${order ? `${WITH_HANDLE} ${DROP_MARKS[order.markOf(file.output_id)]}` : COLUMNS}`}
      onDragOver={(event) => {
        if (!order) return;
        event.preventDefault();
        order.acts.aim({ id: file.output_id, after: isBelow(event) });
      }}
      onDrop={(event) => {
        event.preventDefault();
        order?.acts.drop();
      }}
    >
      {order && (
        <RowHandle
          name={file.file_name}
          hint="Drag it, or move it by the arrow keys; what stands higher goes first"
          label={`Move ${file.file_name}: arrow keys, Home for first, End for last`}
          onDrag={(begins) => order.acts.drag(begins ? file.output_id : null)}
          onKey={(key) => order.acts.key(file.output_id, key)}
        />
      )}
      {storage && isOpen ? (
        <Checkbox
          checked={picked}
          disabled={!file.fits && file.state !== "left_out"}
          onChange={onPick}
          label={`Copy ${file.file_name}`}
        />
      ) : (
        <span />
      )}
      <div className="min-w-0">
        <Link
          to={`/outbox/${file.output_id}`}
          className="block truncate font-semibold hover:underline"
          title={file.file_name}
        >
          {file.file_name}
        </Link>
        {file.why && <Why file={file} />}
      </div>
      <span className="text-right text-quiet">{sizeText(file.size_bytes)}</span>
      <div
        className={`flex min-w-0 items-center justify-end gap-2 max-lg:col-span-2 max-lg:justify-start ${order ? "max-lg:col-start-3" : "max-lg:col-start-2"}`}
      >
        <State deviceId={deviceId} file={file} storage={storage} />
      </div>
    </li>
  );
}

function Why({ file }: { file: File }) {
  const isFault = file.state === "failed";
  return (
    <span className={`block text-[13px] ${isFault ? "text-madder" : "text-quiet"}`}>
      {doesNotFit(file) ? `Does not fit: ${file.why}.` : file.why}
    </span>
  );
}

function State({ deviceId, file, storage }: Omit<Props, "picked" | "onPick" | "order">) {
  const stop = useStopHandover();
  const again = useHandOver();
  const { handover_id: id, state } = file;
  if (isUnderWay(file))
    return (
      <>
        <span className="w-20 shrink-0 text-[13px] text-quiet">
          {state === "verifying" ? "reading back" : "copying"}
        </span>
        <Bar fraction={file.fraction} label={`Copy of ${file.file_name}`} />
        {id !== null && <Stop name={file.file_name} onStop={() => stop.mutate(id)} />}
      </>
    );
  if (state === "waiting")
    return (
      <>
        <span className="text-[13px] text-quiet">waits</span>
        {id !== null && <Stop name={file.file_name} onStop={() => stop.mutate(id)} />}
      </>
    );
  if (state === "failed")
    return (
      <>
        <Button
          size="small"
          disabled={again.isPending}
          onClick={() => again.mutate({ device_id: deviceId, outputs: [file.output_id] })}
        >
          Try again
        </Button>
        {id !== null && <Stop name={file.file_name} text="Forget it" onStop={() => stop.mutate(id)} />}
      </>
    );
  if (state === "there")
    return (
      <span className="flex items-center gap-1 text-[13px] font-semibold text-moss">
        <Check size={14} aria-hidden /> on {storage?.label}
      </span>
    );
  if (state === "gone")
    return (
      <span className="flex items-center gap-1 text-[13px] text-quiet">
        <TriangleAlert size={14} aria-hidden /> was there, and was taken off
      </span>
    );
  if (state === "other")
    return (
      <Other
        name={file.file_name}
        disabled={again.isPending || !file.present}
        onCopy={(replace) => again.mutate({ device_id: deviceId, outputs: [file.output_id], replace })}
      />
    );
  if (state === "left_out") return <span className="text-[13px] text-quiet">left out</span>;
  return <span className="text-[13px] text-quiet">{storage && file.fits ? "to be copied" : ""}</span>;
}

/** Another file lies under the name: it may give way, or both stay. */
function Other({
  name,
  disabled,
  onCopy,
}: {
  name: string;
  disabled: boolean;
  onCopy: (replace: boolean) => void;
}) {
  return (
    <Menu
      label={`Another file called ${name} is there`}
      entries={[
        {
          text: "Replace it",
          note: "The one that is there stays until the new one was copied and read back.",
          onChoose: () => onCopy(true),
        },
        { text: "Keep both", note: "The new one gets a number.", onChoose: () => onCopy(false) },
      ]}
    >
      <Button size="small" disabled={disabled}>
        Another is there …
      </Button>
    </Menu>
  );
}

function Stop({ name, text = "Stop", onStop }: { name: string; text?: string; onStop: () => void }) {
  return (
    <Button size="small" look="quiet" onClick={onStop} aria-label={`${text}: ${name}`}>
      {text}
    </Button>
  );
}
