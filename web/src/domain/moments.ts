/** A day and a time as this browser's people write them. */
export const momentText = (at: string) =>
  new Date(at).toLocaleString([], { dateStyle: "medium", timeStyle: "short" });
