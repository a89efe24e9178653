import type { Schemas } from "../api/client";

/** What may go wrong with a file on a device, in the words of somebody who sits before it. */
export const TROUBLES: [Schemas["Trouble"], string][] = [
  ["missing", "It is not listed, or does not open"],
  ["no_picture", "There is no picture, or a broken one"],
  ["silent", "There is no sound"],
  ["stutters", "It stutters"],
  ["no_subtitles", "The subtitles are missing"],
];

/** What is answered in one tap; the rest is found on the file’s own page. */
export const ONE_TAP: [Schemas["Trouble"] | null, string][] = [
  [null, "It played"],
  ["silent", "No sound"],
  ["no_picture", "No picture"],
  ["stutters", "It stutters"],
];

export const troubleText = (trouble: Schemas["Trouble"]) =>
  TROUBLES.find(([key]) => key === trouble)?.[1] ?? trouble;
