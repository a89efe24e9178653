import { useState } from "react";

import { type Answers, answeredBy, asQuestion } from "../api/household";
import type { Schemas } from "../api/client";

/** What somebody has said so far on the way to a device. */
export interface Finder extends Answers {
  /** A kind that was chosen from the others that fit, instead of the one proposed. */
  chosen?: Schemas["Profile"];
}

const NOTHING: Finder = { typed: "", said: {} };

export function useFinder() {
  const [finder, setFinder] = useState<Finder>(NOTHING);
  const say = (changes: Partial<Finder>) => setFinder((old) => ({ ...old, chosen: undefined, ...changes }));
  return {
    finder,
    type: (typed: string) => setFinder({ ...NOTHING, typed }),
    kindIs: (kind: Schemas["DeviceKind"] | undefined) => setFinder({ ...NOTHING, kind }),
    yearIs: (year: number | undefined) => say({ year }),
    answer: (question: string, said: boolean | null) => say({ said: { ...finder.said, [question]: said } }),
    choose: (chosen: Schemas["Profile"] | undefined) => setFinder((old) => ({ ...old, chosen })),
    clear: () => setFinder(NOTHING),
  };
}

export type Finding = ReturnType<typeof useFinder>;

/**
 * The answers as a new device is given them: what was heard in the sentence, and what was said question by
 * question.
 */
export function answersOf(finder: Finder, heard: Schemas["Heard"] | undefined) {
  // what was said one by one goes before what was typed
  const typed = (names: string[] = []) => names.filter((name) => !(name in finder.said)).map(asQuestion);
  return {
    yes: [...typed(heard?.yes), ...answeredBy(finder.said, true)],
    no: [...typed(heard?.no), ...answeredBy(finder.said, false)],
  };
}
