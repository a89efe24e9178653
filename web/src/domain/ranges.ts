/** Ranges of chapters by where new titles begin: `[1, 5]` of 8 chapters is 1 to 4 and 5 to 8. */
export function rangesFrom(starts: readonly number[], count: number): { first: number; last: number }[] {
  const sorted = [...new Set(starts)].filter((start) => start >= 1 && start <= count).sort((a, b) => a - b);
  return sorted.map((first, index) => ({ first, last: (sorted[index + 1] ?? count + 1) - 1 }));
}

/** Where titles begin when each has `size` chapters. */
export function evenStarts(size: number, count: number): number[] {
  return Array.from({ length: Math.ceil(count / size) }, (_, index) => index * size + 1);
}
