/** How many of something: `1 title`, `2 titles`. */
export const counted = (count: number, one: string): string => `${count} ${one}${count === 1 ? "" : "s"}`;

/** A sentence begins with a capital. */
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
