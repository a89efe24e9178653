import { expect, it } from "vitest";

import { bytesOf, doesNotFit, isPicked, isUnderWay, LIBRARY, saidOf, systemName, toCopy } from "./files";

const FILE = {
  output_id: 1,
  handover_id: null,
  title_name: "Marram Nights",
  file_name: "Marram Nights.mp4",
  size_bytes: 700,
  state: "ready" as const,
  fraction: 0,
  fits: true,
  present: false,
  why: "",
};
const STICK = {
  volume_id: "A1",
  label: "STICK",
  folder: "/media/STICK",
  here: true,
  can_be_ejected: true,
  total_bytes: 8e9,
  free_bytes: 4e9,
  there_bytes: 0,
  coming_bytes: 0,
  kept_free_bytes: 0,
  seen: null,
};
const DEVICE = {
  device_id: 3,
  device_name: "Attic player",
  storage: STICK,
  count: 5,
  there: 2,
  waiting: 0,
  failed: 0,
  copying: null,
  network: null,
  asks: null,
  wished: false,
  files: [],
  more: 0,
};

it("says the one thing about a device's files that matters most", () => {
  const shown = { name: "Rheon", seen: null, fetched: null, fetched_by: "" };
  const asks = { output_id: 1, title_name: "Marram Nights" };
  expect(saidOf({ ...DEVICE, copying: 0.426, waiting: 1, failed: 1, asks })).toBe("copying 43 %");
  expect(saidOf({ ...DEVICE, copying: 0 })).toBe("copying 0 %");
  expect(saidOf({ ...DEVICE, waiting: 2, failed: 1, asks })).toBe("2 waiting");
  expect(saidOf({ ...DEVICE, failed: 1, asks })).toBe("something failed");
  expect(saidOf({ ...DEVICE, asks })).toBe("did it play?");
  expect(saidOf(DEVICE)).toBe("3 of 5 not there");
  expect(saidOf({ ...DEVICE, there: 0 })).toBe("5 to hand over");
  expect(saidOf({ ...DEVICE, there: 5 })).toBe("all there");
  expect(saidOf({ ...DEVICE, count: 0, there: 0 })).toBe("nothing for it yet");
  expect(saidOf({ ...DEVICE, network: shown, storage: null })).toBe("5 shown");
  expect(saidOf({ ...DEVICE, network: shown })).toBe("3 of 5 not there");
  expect(saidOf({ ...DEVICE, device_id: LIBRARY, storage: null })).toBe("");
  expect(saidOf({ ...DEVICE, device_id: LIBRARY })).toBe("3 of 5 not there");
});

it("copies what fits or was left out a moment ago, and not what is left out now", () => {
  const files = [
    FILE,
    { ...FILE, output_id: 2, fits: false },
    { ...FILE, output_id: 3, fits: false, state: "left_out" as const },
    { ...FILE, output_id: 4, fits: false, state: "gone" as const },
    { ...FILE, output_id: 5, fits: false, state: "there" as const },
  ];
  expect(files.map((file) => isPicked(file, []))).toEqual([true, false, true, false, false]);
  expect(files.map(doesNotFit)).toEqual([false, true, false, true, false]);
  expect(toCopy({ ...DEVICE, files }, [1]).map((file) => file.output_id)).toEqual([3]);
  expect(bytesOf(files.slice(0, 2))).toBe(1400);
});

it("knows what is under way and calls file systems by their names", () => {
  const under = (["ready", "copying", "verifying", "there"] as const).map((state) =>
    isUnderWay({ ...FILE, state }),
  );
  expect(under).toEqual([false, true, true, false]);
  expect(["vfat", "exfat", "ext4"].map(systemName)).toEqual(["FAT32", "exFAT", "ext4"]);
});
