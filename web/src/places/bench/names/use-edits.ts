import { useCallback, useEffect, useState } from "react";

import { useChangeTags } from "../../../api/tags";
import { type Change, type Row, takenBack } from "../../../domain/tags";

interface Act {
  text: string;
  back: Change[];
}

/** Whether the changes were kept; what was refused is said. `work` is the key of the one that they were taken from. */
export type ChangeTags = (text: string, changes: Change[], work?: string) => Promise<boolean>;

export interface Edits {
  /** Sets tags in one act that can be taken back. */
  change: ChangeTags;
  undo: (() => void) | null;
  /** What would be taken back. */
  last: string;
  busy: boolean;
  /** What was refused, and why. */
  refused: string | null;
}

/** Changes of tags, each kept with what takes it back. */
export function useEdits(rows: readonly Row[], ids: readonly number[]): Edits {
  const { mutateAsync, isPending } = useChangeTags(ids);
  const [refused, setRefused] = useState<string | null>(null);
  const [acts, setActs] = useState<readonly Act[]>([]);
  const save = useCallback(
    async (text: string, changes: Change[], work = "") => {
      try {
        await mutateAsync({ changes, work });
        setRefused(null);
        return true;
      } catch (error) {
        setRefused(`${text}: ${error instanceof Error ? error.message : ""}`);
        return false;
      }
    },
    [mutateAsync],
  );
  const change = useCallback(
    async (text: string, changes: Change[], work?: string) => {
      const act = { text, back: takenBack(rows, changes) };
      const kept = changes.length === 0 || (await save(text, changes, work));
      if (kept && changes.length) setActs((old) => [...old, act]);
      return kept;
    },
    [rows, save],
  );
  const last = acts.at(-1);
  const undo = useCallback(() => {
    if (!last) return;
    void save(last.text, last.back).then((kept) => {
      if (kept) setActs((old) => old.filter((act) => act !== last));
    });
  }, [last, save]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLInputElement && event.target.dataset.typed === "yes";
      if (!(event.ctrlKey || event.metaKey) || event.key !== "z" || typing) return;
      event.preventDefault();
      undo();
    };
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, [undo]);
  return { change, undo: last ? undo : null, last: last?.text ?? "", busy: isPending, refused };
}
