import { expect, it } from "vitest";

import { folderName, placeText, placeWarning } from "./place-text";

const DISK = {
  path: "/media/films",
  exists: true,
  writable: true,
  free_bytes: 5e9,
  file_system: "ext4",
  largest_file_bytes: null,
};

it("says of a folder what lies there, or why nothing can", () => {
  expect(placeText(DISK)).toBe("5.00 GB free · ext4");
  expect(placeText({ ...DISK, file_system: "" })).toBe("5.00 GB free");
  expect(placeText({ ...DISK, writable: false })).toBe("can’t be written to");
  expect(placeText({ ...DISK, writable: false, free_bytes: null })).toBe("not there");
  expect(["/media/films/", "/"].map(folderName)).toEqual(["films", "/"]);
});

it("warns of a small disk and of one that takes no large files, and of nothing else", () => {
  expect(placeWarning(DISK)).toBe("");
  expect(placeWarning({ ...DISK, free_bytes: null })).toBe("");
  expect(placeWarning({ ...DISK, free_bytes: 2e9 })).toBe("");
  expect(placeWarning({ ...DISK, free_bytes: 2e9 - 1 })).toContain("little room");
  expect(placeWarning({ ...DISK, free_bytes: 1, largest_file_bytes: 4e9 })).toContain("4.00 GB");
});
