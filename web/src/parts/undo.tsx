import {
  createContext,
  type ReactNode,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
} from "react";

import { type Removable, type Removed, useRemoval } from "../api/removal";
import { Button } from "../ui/button";

const PATIENCE_MS = 8000;
/** Where a removal is noted until it is done, since a busy page may be left before it can say so. */
const NOTED = "rheon:removals";

function noted(removal: Removed) {
  return JSON.stringify({ kind: removal.kind, ids: removal.ids });
}

/** Takes the note away where it is still of this removal and not of the next one. */
function unnote(removal: Removed) {
  if (sessionStorage.getItem(NOTED) === noted(removal)) sessionStorage.removeItem(NOTED);
}

interface Removal extends Removed {
  /** What was done, as a sentence. */
  text: string;
}

interface Undo {
  /** Hides something at once, and removes it for good a little later, unless that is taken back. */
  remove: (removal: Removal) => void;
  gone: (kind: Removable, id: number) => boolean;
}

const UndoContext = createContext<Undo>({ remove: () => undefined, gone: () => false });

export const useUndo = () => useContext(UndoContext);

/**
 * Keeps the last removal until it can't be taken back any more: a while later, with the next one, or when
 * the page is left.
 */
export function UndoProvider({ children }: { children: ReactNode }) {
  const [waiting, setWaiting] = useState<Removal | null>(null);
  // what was done for good stays hidden until the lists have been read again
  const [done, setDone] = useState<ReadonlySet<string>>(new Set());
  const last = useRef<Removal | null>(null);
  const { mutateAsync: removeForGood } = useRemoval();
  const finish = useCallback(() => {
    const removal = last.current;
    last.current = null;
    setWaiting(null);
    if (!removal) return;
    const keys = removal.ids.map((id) => `${removal.kind} ${id}`);
    setDone((old) => new Set([...old, ...keys]));
    // what could not be removed is shown again
    removeForGood({ kind: removal.kind, ids: removal.ids })
      .catch(() => setDone((old) => new Set([...old].filter((one) => !keys.includes(one)))))
      .finally(() => unnote(removal));
  }, [removeForGood]);
  const remove = useCallback(
    (removal: Removal) => {
      finish();
      last.current = removal;
      sessionStorage.setItem(NOTED, noted(removal));
      setWaiting(removal);
    },
    [finish],
  );
  useEffect(() => {
    if (!waiting) return;
    const timer = setTimeout(finish, PATIENCE_MS);
    return () => clearTimeout(timer);
  }, [waiting, finish]);
  useEffect(() => {
    const left = sessionStorage.getItem(NOTED);
    if (!left) return;
    const removal: Removed = JSON.parse(left);
    // the page before this one was left too quickly; what is gone already is refused without harm
    removeForGood(removal)
      .catch(() => undefined)
      .finally(() => unnote(removal));
  }, [removeForGood]);
  useEffect(() => {
    addEventListener("pagehide", finish);
    return () => removeEventListener("pagehide", finish);
  }, [finish]);
  const value = useMemo(
    () => ({
      remove,
      gone: (kind: Removable, id: number) =>
        (waiting?.kind === kind && waiting.ids.includes(id)) || done.has(`${kind} ${id}`),
    }),
    [remove, waiting, done],
  );
  const takeBack = () => {
    if (last.current) unnote(last.current);
    last.current = null;
    setWaiting(null);
  };
  return (
    <UndoContext value={value}>
      {children}
      <div
        role="status"
        className="pointer-events-none fixed inset-x-0 top-[68px] z-40 flex justify-center px-3"
      >
        {waiting && (
          <p className="pointer-events-auto flex max-w-full items-center gap-4 rounded-card bg-deep px-4 py-2.5 text-deep-ink shadow-2xl">
            <span className="min-w-0 truncate">{waiting.text}</span>
            <Button look="accent" size="small" onClick={takeBack}>
              Undo
            </Button>
          </p>
        )}
      </div>
    </UndoContext>
  );
}
