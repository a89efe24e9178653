import { clockText } from "./durations";

interface Total {
  compared_s: number;
  expected_s: number;
  compared_bytes: number;
  expected_bytes: number;
}

const share = (part: number, whole: number) => `${Math.round((100 * part) / whole)} %`;

/** How what was made came out beside what had been expected of it; empty where nothing can be compared. */
export function comparedText({ compared_s, expected_s, compared_bytes, expected_bytes }: Total): string {
  if (!expected_s || !expected_bytes) return "";
  return `All together took ${share(compared_s, expected_s)} of the time that was expected, and ${share(compared_bytes, expected_bytes)} of the size.`;
}

/** A moment of some year: `Sat, Nov 28, 10:15 PM`, with its year where it is another one. */
export function momentOf(at: string, now = new Date()): string {
  const date = new Date(at);
  const year = date.getFullYear() === now.getFullYear() ? undefined : "numeric";
  const day = year
    ? date.toLocaleDateString(undefined, { day: "numeric", month: "short", year })
    : date.toLocaleDateString(undefined, { weekday: "short", day: "numeric", month: "short" });
  return `${day}, ${clockText(date)}`;
}
