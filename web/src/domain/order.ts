/** The list with the entry at one place moved to another; unchanged where there is no such place. */
export function moved<T>(list: readonly T[], from: number, to: number): T[] {
  const next = [...list];
  if (from < 0 || to < 0 || from >= next.length || to >= next.length) return next;
  next.splice(to, 0, ...next.splice(from, 1));
  return next;
}
