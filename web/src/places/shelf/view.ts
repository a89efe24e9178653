import type { Schemas } from "../../api/client";
import type { TimeScale } from "../../domain/scales";
import { type Lane, lanesOf } from "./lanes";

type Source = Schemas["Source"];
type Title = Source["titles"][number];
type Role = Schemas["Role"];

export const SORTS = ["as added", "by name", "longest first", "newest first"] as const;
export const LENGTHS = [0, 60, 300, 1200, 3600] as const;
export const ZOOMS = [1, 2, 4, 8, 16] as const;
const BLOCK_LANES = 12;

/** What is shown of the Shelf and how. `roles` empty means all of them. */
export interface View {
  text: string;
  roles: Role[];
  longer: number;
  sort: (typeof SORTS)[number];
  zoom: (typeof ZOOMS)[number];
  from: number;
}

export const WHOLE: View = { text: "", roles: [], longer: 0, sort: "as added", zoom: 1, from: 0 };

export const isNarrowed = (view: View) => view.text.trim() !== "" || view.roles.length > 0 || view.longer > 0;

/**
 * The sources with the titles that the view lets through. Sources without titles stay unless something is
 * asked for.
 */
export function arrange(sources: readonly Source[], view: View): Source[] {
  if (!isNarrowed(view)) return sorted([...sources], view.sort);
  const words = view.text.toLowerCase().split(/\s+/).filter(Boolean);
  const kept = sources.flatMap((source) => {
    const titles = source.titles.filter((title) => letsThrough(source, title, view, words));
    const named = words.length > 0 && words.every((word) => sourceText(source).includes(word));
    if (titles.length === 0 && !(named && source.titles.length === 0)) return [];
    return [titles.length === source.titles.length ? source : { ...source, titles }];
  });
  return sorted(kept, view.sort);
}

const sourceText = (source: Source) =>
  `${source.name} ${source.label} ${source.path.split("/").at(-1) ?? ""}`.toLowerCase();

function letsThrough(source: Source, title: Title, view: View, words: string[]): boolean {
  if (view.roles.length > 0 && !view.roles.includes(title.role)) return false;
  if (title.duration_s < view.longer) return false;
  const text = `${title.name.toLowerCase()} ${sourceText(source)}`;
  return words.every((word) => text.includes(word));
}

function sorted(sources: Source[], sort: View["sort"]): Source[] {
  const longest = (source: Source) => Math.max(0, ...source.titles.map((title) => title.duration_s));
  if (sort === "by name")
    return [...sources].sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }));
  if (sort === "longest first") return [...sources].sort((a, b) => longest(b) - longest(a));
  return sort === "newest first" ? [...sources].reverse() : sources;
}

/**
 * A piece of the list that is drawn or left out as a whole: a source's head with its first lanes, or
 * further lanes.
 */
export interface Block {
  key: string;
  source: Source;
  head: boolean;
  tail: boolean;
  lanes: Lane[];
  /** Blocks of one shape are of one height, unless a name needs a second line. */
  shape: string;
}

/** The blocks of each source as they were last laid out; a page that arrives leaves the others as they are. */
const laid = new WeakMap<Source, { scale: TimeScale; blocks: Block[] }>();

export function blocksOf(sources: readonly Source[], scale: TimeScale): Block[] {
  return sources.flatMap((source) => {
    const old = laid.get(source);
    if (old?.scale === scale) return old.blocks;
    const lanes = source.state === "ready" || source.state === "missing" ? lanesOf(source.titles, scale) : [];
    const count = Math.max(1, Math.ceil(lanes.length / BLOCK_LANES));
    const blocks = Array.from({ length: count }, (_, index) => {
      const own = lanes.slice(index * BLOCK_LANES, (index + 1) * BLOCK_LANES);
      const sizes = own.map(({ large }) => (large ? "L" : "s")).join("");
      const [head, tail] = [index === 0, index === count - 1];
      const shape = `${head} ${tail} ${sizes} ${source.state} ${source.problems.length}`;
      return { key: `${source.id}-${index}`, source, head, tail, lanes: own, shape };
    });
    laid.set(source, { scale, blocks });
    return blocks;
  });
}

/**
 * The titles from one to another, both included, in the order in which they are drawn; those that can't be
 * used are left out.
 */
export function between(blocks: readonly Block[], one: number, other: number): number[] {
  const order = blocks.flatMap((block) =>
    block.lanes.flatMap((lane) => lane.strips.map(({ strip }) => strip)),
  );
  const places = [one, other].map((id) => order.findIndex((strip) => strip.id === id));
  const [low, high] = [Math.min(...places), Math.max(...places)];
  if (low < 0) return [other];
  return order.slice(low, high + 1).flatMap((strip) => (strip.fault ? [] : [strip.id]));
}
