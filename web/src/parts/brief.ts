import { useEffect, useState } from "react";

const LATEST_MS = 1000;

/**
 * Whether something that comes into view by scrolling is still to be drawn in short: what is slow to draw
 * waits until there is time for it.
 */
export function useBrief(passing: boolean): boolean {
  const [brief, setBrief] = useState(passing);
  useEffect(() => {
    if (!brief) return;
    const asked = requestIdleCallback(() => setBrief(false), { timeout: LATEST_MS });
    return () => cancelIdleCallback(asked);
  }, [brief]);
  return brief;
}
