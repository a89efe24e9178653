import { useState } from "react";

import type { Schemas } from "../../api/client";
import { useDraftPin } from "./draft-pin";
import { cropPin, type Framing, NOTHING, seen, type Sides } from "./framing";

type Sheet = Schemas["Sheet"];

export interface Frame {
  isOpen: boolean;
  open: (open: boolean) => void;
  framing: Framing | null;
  /** What is cut away, as the picture is seen. */
  cut: Sides;
  setCut: (cut: Sides) => void;
  guides: boolean;
  setGuides: (on: boolean) => void;
  isUnsaid: boolean;
}

interface Turned {
  cut: Sides;
  rotation: number;
}

/** The frame as it is worked on, until the picture is turned; pinned at once when it is done. */
export function useFrame(sheet: Sheet, onPin: (key: string, value: string | null) => void): Frame {
  const [isWanted, setWanted] = useState(false);
  const [guides, setGuides] = useState(false);
  const framing = sheet.framing;
  const rotation = framing?.rotation ?? 0;
  const stored = framing ? seen(framing.cut, rotation) : NOTHING;
  const storedPin = cropPin(stored, rotation);
  const draft = useDraftPin<Turned>(
    storedPin,
    (value) => (value.rotation === rotation ? cropPin(value.cut, rotation) : storedPin),
    (pin) => onPin("picture.crop", pin),
  );
  return {
    isOpen: isWanted && framing !== null,
    open: (wide) => {
      if (!wide) draft.say();
      setWanted(wide);
    },
    framing,
    cut: draft.value?.rotation === rotation ? draft.value.cut : stored,
    setCut: (cut) => draft.set({ cut, rotation }),
    guides,
    setGuides,
    isUnsaid: draft.isUnsaid,
  };
}
