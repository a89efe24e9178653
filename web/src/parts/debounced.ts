import { useEffect, useState } from "react";

/** The value, once it has stayed the same for a while. */
export function useDebounced<T>(value: T, restMs: number): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), restMs);
    return () => clearTimeout(timer);
  }, [value, restMs]);
  return settled;
}
