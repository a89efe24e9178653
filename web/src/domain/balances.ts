/** From small and quick to large and fine. */
export const BALANCES = ["lean", "light", "even", "full", "rich"] as const;
