import type { Schemas } from "../../api/client";

/** The kept range as a person works on it: stretches of a title in the order of time. Pure. */

export type KeptRange = Schemas["KeptRange"];

/** What of a title counts: how long it is, and where its pictures lie (`picture_s` null: no even rate). */
export interface Pictures {
  duration_s: number;
  first_picture_s: number;
  picture_s: number | null;
}

export type Edge = "from_s" | "until_s";

const TOUCHING_S = 0.0005;
const ROUGH_STEP_S = 0.04;
const LEAST_PIECE_S = 0.2;

/** `83.5`, `1:23.5`, `0:01:23.5`, `0:01:23:12` with pictures, `#2087` as a picture; null where it is none of these. */
export function readMoment(said: string, pictures: Pictures): number | null {
  const text = said.trim();
  const step = pictures.picture_s;
  const counted = /^#(\d{1,8})$/.exec(text);
  if (counted) return step === null ? null : pictures.first_picture_s + Number(counted[1]) * step;
  const coded = /^(\d{1,3}:\d{1,2}:\d{1,2}):(\d{1,3})$/.exec(text);
  if (coded) return step === null ? null : inSeconds(coded[1] ?? "") + Number(coded[2]) * step;
  if (!/^(\d{1,3}:){0,2}\d{1,6}([.,]\d{1,9})?$/.test(text)) return null;
  return inSeconds(text.replace(",", "."));
}

const inSeconds = (text: string) => text.split(":").reduce((total, part) => total * 60 + Number(part), 0);

export const stepOf = (pictures: Pictures) => pictures.picture_s ?? ROUGH_STEP_S;

/** The moment of the nearest picture, within the title. */
export function onPicture(seconds: number, pictures: Pictures): number {
  const { duration_s, first_picture_s, picture_s } = pictures;
  const inside = Math.min(duration_s, Math.max(0, seconds));
  if (picture_s === null || inside <= 0 || inside >= duration_s) return inside;
  const number = Math.max(0, Math.round((inside - first_picture_s) / picture_s));
  return Math.min(duration_s, first_picture_s + number * picture_s);
}

/** In the order of time, those that touch joined, nothing empty; none where they are all of the title. */
export function tidy(stretches: readonly KeptRange[], duration_s: number): KeptRange[] {
  const sorted = stretches
    .map((one) => ({ from_s: Math.max(0, one.from_s), until_s: Math.min(duration_s, one.until_s) }))
    .filter((one) => one.until_s - one.from_s > TOUCHING_S)
    .sort((one, other) => one.from_s - other.from_s);
  const joined: KeptRange[] = [];
  for (const one of sorted) {
    const last = joined.at(-1);
    if (last && one.from_s <= last.until_s + TOUCHING_S) last.until_s = Math.max(last.until_s, one.until_s);
    else joined.push({ ...one });
  }
  const [only] = joined;
  const whole =
    joined.length === 1 && only && only.from_s <= TOUCHING_S && only.until_s >= duration_s - TOUCHING_S;
  return whole ? [] : joined;
}

/** All of the title, where nothing is cut. */
export const shownOf = (stretches: readonly KeptRange[], duration_s: number): KeptRange[] =>
  stretches.length ? [...stretches] : [{ from_s: 0, until_s: duration_s }];

export function fromHere(stretches: readonly KeptRange[], at: number, duration_s: number): KeptRange[] {
  const later = shownOf(stretches, duration_s).filter((one) => one.until_s > at + TOUCHING_S);
  const [first, ...rest] = later;
  return tidy(
    first ? [{ ...first, from_s: at }, ...rest] : [{ from_s: at, until_s: duration_s }],
    duration_s,
  );
}

export function toHere(stretches: readonly KeptRange[], at: number, duration_s: number): KeptRange[] {
  const earlier = shownOf(stretches, duration_s).filter((one) => one.from_s < at - TOUCHING_S);
  const last = earlier.at(-1);
  return tidy(
    last ? [...earlier.slice(0, -1), { ...last, until_s: at }] : [{ from_s: 0, until_s: at }],
    duration_s,
  );
}

const NEAR_S = 0.05;

/** What of a title counts where it is kept by chapters: when each begins, and how long it is. */
export interface Chaptered {
  chapters: readonly number[];
  duration_s: number;
}

const endsOf = ({ chapters, duration_s }: Chaptered) => [...chapters.slice(1), duration_s];

/** The first and the last chapter of what is kept, counted from 0; null where it does not begin or end with one. */
export function chaptersOf(
  stretches: readonly KeptRange[],
  title: Chaptered,
): [number | null, number | null] {
  const [only, ...others] = stretches;
  if (!only || others.length > 0) return [null, null];
  const place = (moments: readonly number[], at: number) => {
    const found = moments.findIndex((one) => Math.abs(one - at) < NEAR_S);
    return found < 0 ? null : found;
  };
  return [place(title.chapters, only.from_s), place(endsOf(title), only.until_s)];
}

/** From a chapter to another one, both included, in whichever order; null: from the first, to the last. */
export function fromChapters(first: number | null, last: number | null, title: Chaptered): KeptRange[] {
  const ends = endsOf(title);
  const [one, other] = [first ?? 0, last ?? ends.length - 1];
  const kept = {
    from_s: title.chapters[Math.min(one, other)] ?? 0,
    until_s: ends[Math.max(one, other)] ?? title.duration_s,
  };
  return tidy([kept], title.duration_s);
}

/** A piece taken out from a moment on: a small one, whose edges can then be moved. */
export function takeOut(stretches: readonly KeptRange[], at: number, pictures: Pictures): KeptRange[] {
  const { duration_s } = pictures;
  const length = Math.max(LEAST_PIECE_S, stepOf(pictures), duration_s * 0.03);
  const end = onPicture(at + length, pictures);
  return without(stretches, { from_s: at, until_s: end }, duration_s);
}

/** Without what lies between two moments. */
export function without(stretches: readonly KeptRange[], out: KeptRange, duration_s: number): KeptRange[] {
  const left = shownOf(stretches, duration_s).flatMap((one) => [
    { from_s: one.from_s, until_s: Math.min(one.until_s, out.from_s) },
    { from_s: Math.max(one.from_s, out.until_s), until_s: one.until_s },
  ]);
  const kept = tidy(left, duration_s);
  return kept.length ? kept : [...stretches];
}

/** Whether anything of a stretch is kept; a picture or two at its edge do not count. */
export const isKept = (stretches: readonly KeptRange[], one: KeptRange, duration_s: number) =>
  shownOf(stretches, duration_s).some(
    (kept) => Math.min(kept.until_s, one.until_s) - Math.max(kept.from_s, one.from_s) > 0.1,
  );

/** An edge moved, but not past its stretch's other edge nor over its neighbours. */
export function moved(
  stretches: readonly KeptRange[],
  which: { index: number; edge: Edge },
  to: number,
  pictures: Pictures,
): KeptRange[] {
  const { index, edge } = which;
  const one = stretches[index];
  if (!one) return [...stretches];
  const step = stepOf(pictures);
  const low = edge === "from_s" ? (stretches[index - 1]?.until_s ?? -step) + step : one.from_s + step;
  const high =
    edge === "until_s"
      ? (stretches[index + 1]?.from_s ?? pictures.duration_s + step) - step
      : one.until_s - step;
  const inside = Math.min(Math.max(onPicture(to, pictures), low), Math.max(low, high));
  return stretches.map((old, at) => (at === index ? { ...old, [edge]: inside } : old));
}

/** As it is pinned; null for all of the title. */
export function pinOf(stretches: readonly KeptRange[], duration_s: number): string | null {
  const kept = tidy(stretches, duration_s);
  if (!kept.length) return null;
  return kept.map((one) => `${one.from_s.toFixed(3)}-${one.until_s.toFixed(3)}`).join(",");
}

export const lengthOf = (stretches: readonly KeptRange[]) =>
  stretches.reduce((sum, one) => sum + one.until_s - one.from_s, 0);

/** Which of several places along a line (0 to 1) have room for a number: none closer than `apart` to the one before. */
export function withRoom(places: readonly number[], apart: number): boolean[] {
  let last = -1;
  return places.map((place) => {
    const room = place - last >= apart && place < 1 - apart;
    if (room) last = place;
    return room;
  });
}
