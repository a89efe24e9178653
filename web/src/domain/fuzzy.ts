/**
 * How many letters must be changed, added or left out to turn one word into another; stops counting beyond
 * `most`.
 */
export function distance(one: string, other: string, most = 3): number {
  if (Math.abs(one.length - other.length) > most) return most + 1;
  let row = Array.from({ length: other.length + 1 }, (_, index) => index);
  for (let i = 1; i <= one.length; i += 1) {
    const next = [i];
    for (let j = 1; j <= other.length; j += 1) {
      const same = one[i - 1] === other[j - 1] ? 0 : 1;
      next.push(Math.min((row[j] ?? 0) + 1, (next[j - 1] ?? 0) + 1, (row[j - 1] ?? 0) + same));
    }
    row = next;
  }
  return row[other.length] ?? 0;
}

/**
 * How well a text answers what was typed, 0 for not at all; a typing error or two is forgiven in longer
 * words.
 */
export function likeness(typed: string, text: string): number {
  const wanted = words(typed);
  const there = words(text);
  if (!wanted.length) return 1;
  const scores = wanted.map((word) =>
    Math.max(0, ...there.map((candidate) => wordLikeness(word, candidate))),
  );
  return scores.some((score) => score === 0)
    ? 0
    : scores.reduce((sum, score) => sum + score, 0) / scores.length;
}

const words = (text: string) =>
  text
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);

function wordLikeness(word: string, candidate: string): number {
  if (candidate === word) return 1;
  if (candidate.startsWith(word)) return 0.9;
  if (candidate.includes(word) && word.length > 2) return 0.7;
  // a number is meant as it is typed
  if (/\d/.test(word)) return 0;
  const forgiven = word.length < 4 ? 0 : word.length < 7 ? 1 : 2;
  const apart = Math.min(distance(word, candidate), distance(word, candidate.slice(0, word.length)));
  return apart <= forgiven ? 0.6 - apart * 0.1 : 0;
}
