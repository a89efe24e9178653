export const FILES = "files";
export const BY_DEVICE = "by device";
export const TO_TRY = "to try";

/** How the Outbox is shown: its files, the devices that they go onto, or what was only made to be tried. */
export type Group = typeof FILES | typeof BY_DEVICE | typeof TO_TRY;
