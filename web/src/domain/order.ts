/** The list with the entry at one place moved to another; unchanged where there is no such place. */
export function moved<T>(list: readonly T[], from: number, to: number): T[] {
  const next = [...list];
  if (from < 0 || to < 0 || from >= next.length || to >= next.length) return next;
  next.splice(to, 0, ...next.splice(from, 1));
  return next;
}

interface Row {
  id: number;
}

/** The list with some of its rows put before another one, or last (`null`), in the order that they had. */
export function putBefore<R extends Row>(
  rows: readonly R[],
  ids: ReadonlySet<number>,
  before: number | null,
): R[] {
  const away = rows.filter(({ id }) => ids.has(id));
  const stay = rows.filter(({ id }) => !ids.has(id));
  const at = before === null ? stay.length : ahead(rows, ids, before);
  return [...stay.slice(0, at), ...away, ...stay.slice(at)];
}

/** How many of those that stay come before a row. */
function ahead(rows: readonly Row[], ids: ReadonlySet<number>, before: number): number {
  const end = rows.findIndex(({ id }) => id === before);
  return rows.slice(0, Math.max(0, end)).filter(({ id }) => !ids.has(id)).length;
}

/** Before which row a key puts some of them, `null` for last; `undefined` where it means nothing here. */
export function placeFor(
  key: string,
  rows: readonly Row[],
  ids: ReadonlySet<number>,
): number | null | undefined {
  const stay = rows.filter(({ id }) => !ids.has(id));
  const first = rows.findIndex(({ id }) => ids.has(id));
  const last = rows.findLastIndex(({ id }) => ids.has(id));
  if (first < 0 || !stay.length) return undefined;
  if (key === "Home") return stay[0]?.id;
  if (key === "End") return null;
  if (key === "ArrowUp") return stay[Math.max(0, before(rows, ids, first) - 1)]?.id;
  if (key === "ArrowDown") return stay[before(rows, ids, last) + 1]?.id ?? null;
  return undefined;
}

const before = (rows: readonly Row[], ids: ReadonlySet<number>, index: number) =>
  rows.slice(0, index).filter(({ id }) => !ids.has(id)).length;
