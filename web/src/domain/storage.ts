/** What a storage's bar shows, in bytes. */
export interface StorageFacts {
  total_bytes: number | null;
  free_bytes: number | null;
  there_bytes: number;
  coming_bytes: number;
  kept_free_bytes: number;
}

export type StoragePart = "others" | "there" | "coming" | "picked" | "free" | "kept";

/**
 * The parts of a storage from left to right, each with its bytes: what others take, files from here, what is on its
 * way, what is `picked` to go, what is left, and what is kept free. Nothing where it does not say how large it is.
 */
export function storageParts(facts: StorageFacts, picked: number): { part: StoragePart; bytes: number }[] {
  const { total_bytes: total, free_bytes: free } = facts;
  if (total === null || free === null) return [];
  const used = Math.max(0, total - free);
  const there = Math.min(used, facts.there_bytes);
  const coming = Math.min(free, facts.coming_bytes);
  const meant = Math.min(free - coming, picked);
  const kept = Math.min(free - coming - meant, facts.kept_free_bytes);
  const parts: { part: StoragePart; bytes: number }[] = [
    { part: "others", bytes: used - there },
    { part: "there", bytes: there },
    { part: "coming", bytes: coming },
    { part: "picked", bytes: meant },
    { part: "free", bytes: free - coming - meant - kept },
    { part: "kept", bytes: kept },
  ];
  return parts.filter(({ bytes }) => bytes > 0);
}
