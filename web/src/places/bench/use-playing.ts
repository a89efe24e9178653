import { useMemo, useState } from "react";

import type { Schemas } from "../../api/client";

/** What of a sheet playing it goes by. */
export type PlayedFile = Pick<Schemas["Sheet"], "duration_s" | "sounds" | "subtitles">;

/** Which of the file's tracks of sound is heard, and which subtitles are switched on. */
export interface Switched {
  sound: number;
  subtitle: number | null;
}

export interface Playing {
  /** The moment from which it plays; nothing where it does not. */
  from: number | null;
  /** The moment whose seconds could not be made. */
  failedAt: number | null;
  switched: Switched;
  toggle: () => void;
  stop: () => void;
  fail: () => void;
  /** The seconds are over; the next ones begin there. */
  end: (to: number) => void;
  switchTo: (to: Switched) => void;
}

/** Playing a sheet's file from a moment on, with what of its tracks was chosen; as it begins until then. */
export function usePlaying(sheet: PlayedFile, at: number): Playing {
  const [from, setFrom] = useState<number | null>(null);
  const [failedAt, setFailedAt] = useState<number | null>(null);
  const [chosen, choose] = useState<Switched>({ sound: 0, subtitle: null });
  const sound = sheet.sounds[chosen.sound] ? chosen.sound : 0;
  const subtitle = chosen.subtitle !== null && sheet.subtitles[chosen.subtitle] ? chosen.subtitle : null;
  return {
    from,
    failedAt,
    switched: useMemo(() => ({ sound, subtitle }), [sound, subtitle]),
    toggle: () => setFrom(from === null ? at : null),
    stop: () => setFrom(null),
    fail: () => {
      setFrom(null);
      setFailedAt(at);
    },
    end: (to) => setFrom(to < sheet.duration_s - 1 ? to : null),
    switchTo: (to) => {
      choose(to);
      // it goes on with it from here
      setFrom(from === null ? null : at);
    },
  };
}
