import type { Schemas } from "../../api/client";
import { sizeText } from "../../domain/sizes";

type Place = Schemas["Place"];

/** The last part of a path, or all of it where it has none. */
export const folderName = (path: string) => path.split("/").filter(Boolean).at(-1) ?? path;

/** What a folder for files lies on, in a few words. */
export function placeText(place: Place): string {
  if (place.free_bytes === null) return "not there";
  if (!place.writable) return "can’t be written to";
  return `${sizeText(place.free_bytes)} free${place.file_system ? ` · ${place.file_system}` : ""}`;
}

/** What is to be known before a folder is chosen; empty where there is nothing. */
export function placeWarning(place: Place): string {
  if (place.largest_file_bytes !== null)
    return `This disk takes no file over ${sizeText(place.largest_file_bytes)}: long films may not fit as one file.`;
  if (place.free_bytes !== null && place.free_bytes < 2e9)
    return "There is little room: a film takes one to four gigabytes.";
  return "";
}
