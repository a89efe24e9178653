export const FILES = "files";
export const BY_DEVICE = "by device";
export const TO_TRY = "to try";

/** How the Outbox is shown: its files, the devices that they go onto, or what was only made to be tried. */
export type Group = typeof FILES | typeof BY_DEVICE | typeof TO_TRY;

/** The part of the Outbox's address that says so. */
export const SHOWN = "shown";

export const ADDRESSES: Record<Group, string> = {
  [FILES]: "/outbox",
  [BY_DEVICE]: "/outbox/devices",
  [TO_TRY]: `/outbox?${SHOWN}=${encodeURIComponent(TO_TRY)}`,
};
