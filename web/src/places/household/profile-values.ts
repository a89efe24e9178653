/** Values of a profile between its document and its form. */

export interface FieldSpec {
  key: string;
  label: string;
  help: string;
  kind: "text" | "number" | "choice" | "list" | "yes";
  unit?: string;
  /** What the number is stored as: 2 Mb/s are 2,000,000. */
  scale?: number;
  range?: [number, number];
  choices?: [string, string][];
}

export type Entry = Record<string, unknown>;

const isEntry = (value: unknown): value is Entry =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** What a document holds under a name; empty where it holds nothing of the kind. */
export function entryAt(document: Entry, key: string): Entry {
  const found = document[key];
  return isEntry(found) ? found : {};
}

export function entriesAt(document: Entry, key: string): Entry[] {
  const found = document[key];
  return Array.isArray(found) ? found.filter(isEntry) : [];
}

/** A field's value as it is typed. */
export function shown(spec: FieldSpec, value: unknown): string {
  if (value === undefined || value === null) return "";
  if (Array.isArray(value)) return value.join(", ");
  return spec.kind === "number" && spec.scale ? String(Number(value) / spec.scale) : String(value);
}

/** What was typed as the document stores it; nothing where it is empty. */
export function stored(spec: FieldSpec, typed: string): unknown {
  const text = typed.trim();
  if (!text) return spec.kind === "text" && spec.key === "about" ? "" : undefined;
  if (spec.kind === "list") {
    const parts = text.split(/[\s,;]+/).filter(Boolean);
    return parts.every((part) => /^\d+$/.test(part)) ? parts.map(Number) : parts;
  }
  if (spec.kind !== "number") return text;
  const number = Number(text.replace(",", "."));
  return Number.isFinite(number) ? Math.round(number * (spec.scale ?? 1) * 1000) / 1000 : text;
}

/** Why a typed number can't be meant; empty where it can. */
export function outOfRange(spec: FieldSpec, typed: string): string {
  if (!typed.trim() || !spec.range) return "";
  const number = Number(typed.replace(",", "."));
  const [low, high] = spec.range;
  return Number.isFinite(number) && number >= low && number <= high ? "" : `It can be ${low} to ${high}.`;
}
