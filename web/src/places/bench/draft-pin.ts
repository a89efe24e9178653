import { useEffect, useEffectEvent, useState } from "react";

const PIN_AFTER_MS = 450;

/** What somebody works on: what was pinned when it was last changed, and what has been asked for since it began. */
interface Draft<T> {
  value: T;
  before: string | null;
  sent: (string | null)[];
}

/** Whether nothing else was pinned meanwhile: answers come in after what they answer has been changed again. */
const isOn = <T>(draft: Draft<T> | null, stored: string | null): draft is Draft<T> =>
  draft !== null && (stored === draft.before || draft.sent.includes(stored));

export interface DraftPin<T> {
  /** What is worked on; nothing where what is pinned is all there is. */
  value: T | null;
  set: (value: T) => void;
  /** Pins it now rather than in a moment. */
  say: () => void;
  /** What is shown is not pinned yet. */
  isUnsaid: boolean;
}

/**
 * A value that is pinned when it has stayed the same for a moment. What is pinned elsewhere, of the same setting, wins;
 * whatever else is pinned meanwhile leaves it alone.
 */
export function useDraftPin<T>(
  stored: string | null,
  pinOf: (value: T) => string | null,
  onPin: (pin: string | null) => void,
): DraftPin<T> {
  const [draft, setDraft] = useState<Draft<T> | null>(null);
  const own = isOn(draft, stored) ? draft : null;
  const wanted = own ? pinOf(own.value) : stored;
  const isUnsaid = wanted !== stored && wanted !== own?.sent.at(-1);
  const say = () => {
    if (!isUnsaid) return;
    setDraft((old) => old && { ...old, sent: [...old.sent, wanted] });
    onPin(wanted);
  };
  const sayLater = useEffectEvent(say);
  useEffect(() => {
    if (!isUnsaid) return;
    const timer = setTimeout(() => sayLater(), PIN_AFTER_MS);
    return () => clearTimeout(timer);
  }, [wanted, isUnsaid]);
  // also where the sheet is left before its time has come
  useEffect(() => () => sayLater(), []);
  return {
    value: own ? own.value : null,
    // not from what was drawn last: a pointer may move before what was asked for is drawn
    set: (value) => setDraft((old) => ({ value, before: stored, sent: isOn(old, stored) ? old.sent : [] })),
    say,
    isUnsaid,
  };
}
