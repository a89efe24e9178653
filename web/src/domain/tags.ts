/** A tag as it is typed: where it comes from, how sure that is, and whether somebody set it. */
export interface Tag {
  value: string;
  reason: string;
  sure: number;
  by_hand: boolean;
}

/** A title with its tags by their names. */
export interface Row {
  title_id: number;
  title_name: string;
  source_name: string;
  file_name: string;
  tags: Record<string, Tag>;
}

/** What a tag of a title is to be; `null` gives back what was found. */
export interface Change {
  title_id: number;
  tag: string;
  value: string | null;
}

/** What a title has under a tag, as it is typed. */
export const valueOf = (row: Row, tag: string) => row.tags[tag]?.value ?? "";

const kindOf = (row: Row) => valueOf(row, "kind") || "film";

/** The rows behind one that are of its kind: what is filled from it. */
function below(rows: readonly Row[], at: number): Row[] {
  const from = rows[at];
  return from ? rows.slice(at + 1).filter((row) => kindOf(row) === kindOf(from)) : [];
}

/** The value of one row for all below it of its kind; nothing where they have it. */
export function filledDown(rows: readonly Row[], at: number, tag: string): Change[] {
  const from = rows[at];
  if (!from) return [];
  const value = valueOf(from, tag);
  return below(rows, at)
    .filter((row) => valueOf(row, tag) !== value)
    .map((row) => ({ title_id: row.title_id, tag, value }));
}

/** Numbers that go on from one row's for all below it of its kind; nothing where that is no number. */
export function numberedUp(rows: readonly Row[], at: number, tag: string): Change[] {
  const from = rows[at];
  const first = from ? valueOf(from, tag) : "";
  if (!/^\d{1,4}$/.test(first)) return [];
  return below(rows, at).flatMap((row, place) => {
    const value = String(Number(first) + place + 1);
    return valueOf(row, tag) === value ? [] : [{ title_id: row.title_id, tag, value }];
  });
}

/** Every place of a text in the tags that are texts, whatever its capitals. */
export function replaced(rows: readonly Row[], tags: readonly string[], find: string, put: string): Change[] {
  if (!find) return [];
  const pattern = new RegExp(find.replace(/[.*+?^${}()|[\]\\]/g, "\\$&"), "giu");
  return rows.flatMap((row) =>
    tags.flatMap((tag) => {
      const value = valueOf(row, tag);
      const next = value.replace(pattern, () => put);
      return next === value ? [] : [{ title_id: row.title_id, tag, value: next }];
    }),
  );
}

/** What one look-up is for: an episode with the others of its season here, anything else by itself. */
export function ofOneWork(rows: readonly Row[], at: number): Row[] {
  const from = rows[at];
  if (!from) return [];
  const alike = (row: Row) =>
    kindOf(row) === "episode" &&
    ["show", "season"].every((tag) => valueOf(row, tag).toLowerCase() === valueOf(from, tag).toLowerCase());
  return kindOf(from) === "episode" && valueOf(from, "show") ? rows.filter(alike) : [from];
}

/** What takes changes back: the value that was set by hand, or what was found. */
export function takenBack(rows: readonly Row[], changes: readonly Change[]): Change[] {
  const known = new Map(rows.map((row) => [row.title_id, row]));
  return changes.map(({ title_id, tag }) => {
    const old = known.get(title_id)?.tags[tag];
    return { title_id, tag, value: old?.by_hand ? old.value : null };
  });
}

/** Says that a value is right that is not sure: for this title, and for all of its series that have the same doubt. */
export function confirmed(rows: readonly Row[], at: number, tag: string, lookBelow: number): Change[] {
  const from = rows[at];
  const said = from?.tags[tag];
  if (!from || !said || said.by_hand || said.sure >= lookBelow) return [];
  const same = (row: Row) =>
    row === from ||
    (valueOf(row, "show") === valueOf(from, "show") &&
      valueOf(row, "show") !== "" &&
      row.tags[tag]?.value === said.value &&
      row.tags[tag].reason === said.reason &&
      !row.tags[tag].by_hand);
  return rows.filter(same).map(({ title_id }) => ({ title_id, tag, value: said.value }));
}

/** How many values nobody has looked at yet that are not sure. */
export const doubtsOf = (row: Row, lookBelow: number) =>
  Object.values(row.tags).filter(({ sure, by_hand }) => !by_hand && sure < lookBelow).length;

/** Tags in a line, as a sheet tells them. */
export function tagsLine(said: Readonly<Record<string, string>>): string {
  const { kind, show, season, episode, title, year, edition } = said;
  const number = episode && `${season ? `S${season.padStart(2, "0")}` : ""}E${episode.padStart(2, "0")}`;
  return [kind, show, number, title, year, edition].filter(Boolean).join(" · ");
}
