import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo, useRef, useState } from "react";

import { Button } from "../ui/button";

const PATIENCE_MS = 8000;

type Kind = "source" | "device" | "output" | "job";

interface Removal {
  kind: Kind;
  id: number;
  /** What was done, as a sentence. */
  text: string;
  /** Does it for good. */
  run: () => Promise<unknown>;
}

interface Undo {
  /** Hides something at once, and removes it for good a little later, unless that is taken back. */
  remove: (removal: Removal) => void;
  gone: (kind: Kind, id: number) => boolean;
}

const UndoContext = createContext<Undo>({ remove: ({ run }) => void run(), gone: () => false });

export const useUndo = () => useContext(UndoContext);

/** Keeps the last removal until it can't be taken back any more: a while later, with the next one, or when the page is left. */
export function UndoProvider({ children }: { children: ReactNode }) {
  const [waiting, setWaiting] = useState<Removal | null>(null);
  // what was done for good stays hidden until the lists have been read again
  const [done, setDone] = useState<ReadonlySet<string>>(new Set());
  const last = useRef<Removal | null>(null);
  const finish = useCallback(() => {
    const removal = last.current;
    last.current = null;
    setWaiting(null);
    if (!removal) return;
    const key = `${removal.kind} ${removal.id}`;
    setDone((old) => new Set(old).add(key));
    // what could not be removed is shown again
    removal.run().catch(() => setDone((old) => new Set([...old].filter((one) => one !== key))));
  }, []);
  const remove = useCallback(
    (removal: Removal) => {
      finish();
      last.current = removal;
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
    addEventListener("pagehide", finish);
    return () => removeEventListener("pagehide", finish);
  }, [finish]);
  const value = useMemo(
    () => ({ remove, gone: (kind: Kind, id: number) => (waiting?.kind === kind && waiting.id === id) || done.has(`${kind} ${id}`) }),
    [remove, waiting, done],
  );
  const takeBack = () => {
    last.current = null;
    setWaiting(null);
  };
  return (
    <UndoContext value={value}>
      {children}
      <div role="status" className="pointer-events-none fixed inset-x-0 top-[68px] z-40 flex justify-center px-3">
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
