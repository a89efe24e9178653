interface Counts {
  to_do: number;
  outputs: number;
}

/** What is remembered of a night's work while it goes on; `null` where nothing is to do. */
export type Night = { outputs: number } | null;

/** What is to be remembered after these counts, and what came of the night where they end it. */
export function followed(night: Night, { to_do, outputs }: Counts): { night: Night; made: number | null } {
  if (to_do > 0) return { night: night ?? { outputs }, made: null };
  return { night: null, made: night && Math.max(0, outputs - night.outputs) };
}

export function toldText(made: number): string {
  if (made === 0) return "Nothing is left to make.";
  return made === 1 ? "All is made: 1 file." : `All is made: ${made} files.`;
}
