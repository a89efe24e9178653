import { Link } from "react-router";

import type { Schemas } from "../../../api/client";
import { useHandOver, useHandoversOf } from "../../../api/handovers";
import { sizeText } from "../../../domain/sizes";
import { Button } from "../../../ui/button";
import { Notice } from "../../../ui/notice";
import { PickUpButton } from "./pick-up";
import { StorageBar } from "./storage-bar";
import { isUnderWay, LIBRARY } from "./files";

/** How a file gets onto the devices that it is for. */
export function HandOver({ output }: { output: Schemas["Output"] }) {
  const all = useHandoversOf(output.id);
  const devices = all.data?.devices.flatMap((device) => {
    const file = device.files.find(({ output_id }) => output_id === output.id);
    // the library is no question until somebody has one
    return file && (device.storage || device.device_id !== LIBRARY) ? [{ device, file }] : [];
  });
  const isForDevice = devices?.some(({ device }) => device.device_id !== LIBRARY);
  if (output.is_sample || !output.present || output.is_folder || !devices) return null;
  return (
    <section className="mt-6" aria-label="Hand over">
      <h3 className="text-[15px]">Hand over</h3>
      <ul className="mt-1.5 divide-y divide-hairline border-y border-hairline">
        {devices.map(({ device, file }) => (
          <Row key={device.device_id} device={device} file={file} />
        ))}
        {!isForDevice && (
          <li className="flex flex-wrap items-center justify-between gap-3 py-2">
            <span className="text-quiet">It is for no device of the household. Any can pick it up.</span>
            <PickUpButton outputs={[output.id]} deviceId={null} deviceName="any device" />
          </li>
        )}
      </ul>
    </section>
  );
}

function Row({ device, file }: { device: Schemas["DeviceFiles"]; file: Schemas["FileForDevice"] }) {
  const { storage } = device;
  const handOver = useHandOver();
  return (
    <li className="grid grid-cols-[minmax(120px,200px)_minmax(0,1fr)_auto] items-center gap-x-4 gap-y-1 py-2">
      <Link to={`/outbox/devices/${device.device_id}`} className="truncate font-semibold hover:underline">
        {device.device_name}
      </Link>
      <div className="min-w-0">
        {storage ? (
          <>
            <StorageBar facts={storage} picked={file.fits ? file.size_bytes : 0} label={storage.label} />
            <span className="block truncate text-[13px] text-quiet">
              {storage.label}
              {storage.here ? "" : ", not there now"}
              {storage.free_bytes !== null && ` · ${sizeText(storage.free_bytes)} free`}
            </span>
          </>
        ) : (
          <span className="text-[13px] text-quiet">Nobody has said yet where its files go.</span>
        )}
      </div>
      <span className="flex items-center gap-2">
        <Way
          device={device}
          file={file}
          pending={handOver.isPending}
          onCopy={() => handOver.mutate({ device_id: device.device_id, outputs: [file.output_id] })}
        />
        {device.device_id !== LIBRARY && (
          <PickUpButton
            outputs={[file.output_id]}
            deviceId={device.device_id}
            deviceName={device.device_name}
          />
        )}
      </span>
      {(handOver.error ?? file.why) && (
        <div className="col-span-full">
          {handOver.error ? (
            <Notice look="fault">{handOver.error.message}</Notice>
          ) : (
            <p className={`text-[13px] ${file.state === "failed" ? "text-madder" : "text-quiet"}`}>
              {file.state === "ready" ? `Does not fit: ${file.why}.` : file.why}
            </p>
          )}
        </div>
      )}
    </li>
  );
}

interface WayProps {
  device: Schemas["DeviceFiles"];
  file: Schemas["FileForDevice"];
  pending: boolean;
  onCopy: () => void;
}

function Way({ device, file, pending, onCopy }: WayProps) {
  const { storage } = device;
  if (file.state === "other")
    return (
      <Button size="small" asChild>
        <Link to={`/outbox/devices/${device.device_id}`}>Another is there …</Link>
      </Button>
    );
  if (file.state === "there")
    return <span className="text-[13px] font-semibold text-moss">on {storage?.label}</span>;
  if (isUnderWay(file) || file.state === "waiting")
    return (
      <span className="text-[13px] text-quiet">
        {file.state === "waiting" ? "waits" : `copying ${Math.round(file.fraction * 100)} %`}
      </span>
    );
  if (!storage)
    return (
      <Button size="small" asChild>
        <Link to={`/outbox/devices/${device.device_id}`}>Choose where</Link>
      </Button>
    );
  return (
    <Button
      size="small"
      look="primary"
      disabled={pending || (!file.fits && file.state !== "failed")}
      onClick={onCopy}
      aria-label={`Copy it onto ${device.device_name}`}
    >
      {file.state === "failed" ? "Try again" : storage.here ? "Copy now" : "Copy when plugged in"}
    </Button>
  );
}
