import type { Schemas } from "../../api/client";

/** From small and quick to large and fine. */
export const BALANCES = ["lean", "light", "even", "full", "rich"] as const satisfies readonly Schemas["Balance"][];
