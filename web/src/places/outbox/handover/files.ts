import type { Schemas } from "../../../api/client";

type Device = Schemas["DeviceFiles"];
type File = Schemas["FileForDevice"];

/** The number of the library among the devices. */
export const LIBRARY = 0;

/** Whether a file is to be copied: it is not there and fits, or was left out a moment ago. */
export const isPicked = (file: File, leftOut: readonly number[]): boolean =>
  !leftOut.includes(file.output_id) && (file.fits || file.state === "left_out");

/** Whether it has to wait for another place or time, since others go first. */
export const doesNotFit = ({ state, fits }: File): boolean =>
  !fits && (state === "ready" || state === "gone");

export const toCopy = (device: Device, leftOut: readonly number[]): File[] =>
  device.files.filter((file) => isPicked(file, leftOut));

export const bytesOf = (files: readonly File[]): number =>
  files.reduce((sum, file) => sum + file.size_bytes, 0);

export const isUnderWay = ({ state }: File) => state === "copying" || state === "verifying";

/** One line about all files of a device. */
export function saidOf(device: Device): string {
  const { device_id, storage, network, asks, count, there, waiting, failed, copying } = device;
  if (copying !== null) return `copying ${Math.round(copying * 100)} %`;
  if (waiting) return `${waiting} waiting`;
  if (failed) return "something failed";
  if (asks) return "did it play?";
  if (device_id === LIBRARY && !storage) return "";
  if (network && !storage) return `${count} shown`;
  const missing = count - there;
  if (!missing) return count ? "all there" : "nothing for it yet";
  return there ? `${missing} of ${count} not there` : `${missing} to hand over`;
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
