import { useState } from "react";

import type { Schemas } from "../../../api/client";
import { useHandOver, useSetWishes } from "../../../api/handovers";
import { momentText } from "../../../domain/moments";
import { putBefore } from "../../../domain/order";
import { sizeText } from "../../../domain/sizes";
import { useRowOrder } from "../../../parts/row-order";
import { Button } from "../../../ui/button";
import { Notice } from "../../../ui/notice";
import { Loading } from "../../../ui/states";
import { AskPlayed } from "./ask-played";
import { FileRow } from "./file-row";
import { LibraryHoldings } from "./library-holdings";
import { OnNetwork } from "./on-network";
import { PickUpButton } from "./pick-up";
import { StorageBar } from "./storage-bar";
import { StorageChoice } from "./storage-choice";
import { bytesOf, doesNotFit, isPicked, LIBRARY, toCopy } from "./files";

interface Props {
  device: Schemas["DeviceFiles"];
  all: Schemas["Handovers"];
  leftOut: readonly number[];
  onLeaveOut: (outputs: number[]) => void;
}

/** One device: where its files go, how full that is, and its files with what fits already picked. */
export function DeviceBoard({ device, all, leftOut, onLeaveOut }: Props) {
  const { storage, files } = device;
  const [told, setTold] = useState(false);
  const picked = toCopy(device, leftOut);
  const present = files.filter((file) => file.present).map(({ output_id }) => output_id);
  const pick = (output: number, wanted: boolean) =>
    onLeaveOut(wanted ? leftOut.filter((one) => one !== output) : [...leftOut, output]);
  return (
    <div className="min-w-0 overflow-y-auto bg-raised px-6 py-4 max-md:px-3">
      <div className="mb-3 flex flex-wrap items-center justify-between gap-2">
        <h2 className="text-[19px]">{device.device_name}</h2>
        {present.length > 0 && (
          <PickUpButton
            outputs={present}
            deviceId={device.device_id === LIBRARY ? null : device.device_id}
            deviceName={device.device_name}
          />
        )}
      </div>
      <StorageChoice device={device} all={all} />
      {storage && (
        <div className="mt-4">
          <StorageBar facts={storage} picked={bytesOf(picked)} label={storage.label} legend />
          {!storage.here && storage.seen && (
            <p className="mt-1 text-[13px] text-quiet">
              As it was on {momentText(storage.seen)}: it is not there now. Copies wait until it is.
            </p>
          )}
          {storage.total_bytes === null && (
            <p className="text-[13px] text-quiet">It does not say how large it is, or what is free on it.</p>
          )}
        </div>
      )}
      {device.device_id !== LIBRARY && device.count > 0 && (
        <OnNetwork device={device} serverName={all.server_name} problem={all.server_problem} />
      )}
      {device.asks && (
        <AskPlayed
          key={device.asks.output_id}
          device={device}
          asks={device.asks}
          onTold={() => setTold(true)}
        />
      )}
      {told && !device.asks && (
        <div className="mt-3">
          <Notice look="reason">
            Thank you: it stands in the profile of {device.device_name}, and the next file is planned by it.
          </Notice>
        </div>
      )}
      {files.length > 0 ? (
        <FileList device={device} leftOut={leftOut} onPick={pick} />
      ) : (
        <div className="mt-4">
          {device.count ? (
            <Loading what="its files" />
          ) : (
            <p className="text-quiet">Nothing was made for it yet.</p>
          )}
        </div>
      )}
      {device.more > 0 && (
        <p className="mt-2 text-[13px] text-quiet">
          {device.more} more are not listed. Each can be handed over from its own page.
        </p>
      )}
      {storage && <Act device={device} picked={picked} />}
      {storage && device.device_id === LIBRARY && <LibraryHoldings />}
    </div>
  );
}

interface ListProps {
  device: Props["device"];
  leftOut: readonly number[];
  onPick: (output: number, wanted: boolean) => void;
}

/** Its files; where not all of them fit, in an order that is the person's. */
function FileList({ device, leftOut, onPick }: ListProps) {
  const { files, storage, wished } = device;
  const wishes = useSetWishes(device.device_id);
  const rows = files.map(({ output_id: id }) => ({ id }));
  const order = useRowOrder(rows, (ids, before) =>
    wishes.mutate(putBefore(rows, ids, before).map(({ id }) => id)),
  );
  // where nothing fits at all, no order helps
  const isChoice = storage !== null && (wished || (files.some(doesNotFit) && files.some(({ fits }) => fits)));
  return (
    <>
      {isChoice && (
        <p className="mt-4 text-[13px] text-quiet">
          {files.some(doesNotFit) ? "Not everything fits: what" : "What"} stands higher goes first. Drag a row
          by its handle, or use the arrow keys on it.{" "}
          {wished && (
            <Button look="link" size="text" onClick={() => wishes.mutate([])}>
              In the order of names again
            </Button>
          )}
        </p>
      )}
      {wishes.error && <Notice look="fault">{wishes.error.message}</Notice>}
      <ul className="mt-4 border-t border-hairline" aria-label={`Files for ${device.device_name}`}>
        {files.map((file) => (
          <FileRow
            key={file.output_id}
            deviceId={device.device_id}
            file={file}
            storage={storage}
            picked={isPicked(file, leftOut)}
            onPick={(wanted) => onPick(file.output_id, wanted)}
            order={isChoice ? order : null}
          />
        ))}
      </ul>
    </>
  );
}

function Act({ device, picked }: { device: Props["device"]; picked: Schemas["FileForDevice"][] }) {
  const handOver = useHandOver();
  const unfit = device.files.filter(doesNotFit);
  if (!picked.length && !unfit.length) return null;
  return (
    <div className="sticky bottom-0 mt-3 flex flex-wrap items-center gap-3 bg-raised py-3">
      <Button
        look="primary"
        disabled={!picked.length || handOver.isPending}
        onClick={() =>
          handOver.mutate({
            device_id: device.device_id,
            outputs: picked.map(({ output_id }) => output_id),
          })
        }
      >
        {picked.length
          ? `Copy ${picked.length} ${picked.length === 1 ? "file" : "files"} · ${sizeText(bytesOf(picked))}`
          : "Nothing fits"}
      </Button>
      {unfit.length > 0 && (
        <span className="text-quiet">
          {unfit.length === 1 ? "One does" : `${unfit.length} do`} not fit.{" "}
          {picked.length ? "Untick another to make room." : "Take something off it, or choose a larger one."}
        </span>
      )}
      {handOver.isError && <Notice look="fault">{handOver.error.message}</Notice>}
    </div>
  );
}
