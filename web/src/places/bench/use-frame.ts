import { useEffect, useEffectEvent, useState } from "react";

import type { Schemas } from "../../api/client";
import { cropPin, type Framing, isSame, NOTHING, seen, type Sides } from "./framing";

type Sheet = Schemas["Sheet"];

const PIN_AFTER_MS = 450;

export interface Frame {
  isOpen: boolean;
  open: (open: boolean) => void;
  framing: Framing | null;
  /** What is cut away, as the picture is seen. */
  cut: Sides;
  setCut: (cut: Sides) => void;
  guides: boolean;
  setGuides: (on: boolean) => void;
}

/** The frame as it is worked on; pinned when it has stayed the same for a moment. What is pinned elsewhere wins. */
export function useFrame(sheet: Sheet, onPin: (key: string, value: string) => void): Frame {
  const [isWanted, open] = useState(false);
  const [guides, setGuides] = useState(false);
  const [draft, setDraft] = useState<{ cut: Sides; before: string } | null>(null);
  const framing = sheet.framing;
  const stored = framing ? seen(framing.cut, framing.rotation) : NOTHING;
  const known = `${sheet.settings_mark} ${framing?.rotation}`;
  const own = draft?.before === known ? draft.cut : null;
  const pin = useEffectEvent((cut: Sides) => onPin("picture.crop", cropPin(cut, framing?.rotation ?? 0)));
  const wanted = own && !isSame(own, stored) ? JSON.stringify(own) : null;
  useEffect(() => {
    if (wanted === null || !own) return;
    const timer = setTimeout(() => pin(own), PIN_AFTER_MS);
    return () => clearTimeout(timer);
    // the sides themselves are new at each draw
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [wanted]);
  return {
    isOpen: isWanted && framing !== null,
    open,
    framing,
    cut: own ?? stored,
    setCut: (cut) => setDraft({ cut, before: known }),
    guides,
    setGuides,
  };
}
