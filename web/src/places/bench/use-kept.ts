import type { Schemas } from "../../api/client";
import { useDraftPin } from "./draft-pin";
import { type KeptRange, pinOf } from "./kept";

export interface Kept {
  kept: KeptRange[];
  setKept: (kept: KeptRange[]) => void;
  isUnsaid: boolean;
}

/** What is kept of a title as it is worked on. */
export function useKept(
  { kept, duration_s }: Schemas["Sheet"],
  onPin: (key: string, value: string | null) => void,
): Kept {
  const draft = useDraftPin<KeptRange[]>(
    pinOf(kept, duration_s),
    (value) => pinOf(value, duration_s),
    (pin) => onPin("range.keep", pin),
  );
  return { kept: draft.value ?? kept, setKept: draft.set, isUnsaid: draft.isUnsaid };
}
