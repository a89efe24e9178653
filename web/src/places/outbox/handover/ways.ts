import type { Schemas } from "../../../api/client";

type Device = Schemas["DeviceFiles"];
type File = Schemas["FileOnWay"];

/** The number of the library among the devices. */
export const LIBRARY = 0;

/** Whether a file is to be copied: it is not there and fits, or was left out a moment ago. */
export const isPicked = (file: File, leftOut: readonly number[]): boolean =>
  !leftOut.includes(file.output_id) && (file.fits || file.state === "left_out");

export const toCopy = (device: Device, leftOut: readonly number[]): File[] =>
  device.files.filter((file) => isPicked(file, leftOut));

export const bytesOf = (files: readonly File[]): number =>
  files.reduce((sum, file) => sum + file.size_bytes, 0);

export const isUnderWay = ({ state }: File) => state === "copying" || state === "verifying";

/** One line about all files of a device. */
export function saidOf(device: Device): string {
  const { files } = device;
  const moving = files.find(isUnderWay);
  if (moving) return `copying ${Math.round(moving.fraction * 100)} %`;
  const waiting = files.filter(({ state }) => state === "waiting").length;
  if (waiting) return `${waiting} waiting`;
  if (files.some(({ state }) => state === "failed")) return "something failed";
  if (device.device_id === LIBRARY && !device.storage) return "";
  const missing = files.filter(({ state }) => state !== "there").length;
  if (!missing) return files.length ? "all there" : "nothing for it yet";
  return missing === files.length ? `${missing} to hand over` : `${missing} of ${files.length} not there`;
}

const SYSTEMS: Record<string, string> = {
  vfat: "FAT32",
  msdos: "FAT16",
  exfat: "exFAT",
  fuseblk: "exFAT or NTFS",
  ntfs: "NTFS",
  ntfs3: "NTFS",
  cifs: "network folder",
  smb3: "network folder",
  nfs: "network folder",
  nfs4: "network folder",
};

export const systemName = (kernel: string): string => SYSTEMS[kernel] ?? kernel;
