import { useState } from "react";

import type { Schemas } from "../../api/client";
import { Field } from "../../ui/field";
import { Select } from "../../ui/select";

export type Wishes = Schemas["Wishes"];

const SOUNDS = [
  ["surround", "surround where there is some"],
  ["stereo", "stereo"],
] as const;
const SUBTITLES = [
  ["needed", "when the sound is in another language"],
  ["forced", "just the lines that are forced"],
  ["always", "always"],
  ["never", "never"],
] as const;
const ASK = "ask" as const;

interface Props {
  value: Wishes;
  onChange: (value: Partial<Wishes>) => void;
  /** Who decides where this says nothing; empty where nobody does. */
  otherwise: string;
}

/** Languages, surround or stereo, and which subtitles. */
export function WishesForm({ value, onChange, otherwise }: Props) {
  const [tags, setTags] = useState<string | null>(null);
  const names = new Intl.DisplayNames(undefined, { type: "language" });
  const said = value.languages.map((tag) => names.of(tag)).join(", ");
  const commit = () => {
    if (tags !== null) onChange({ languages: tags.split(/[\s,;]+/).filter(Boolean) });
    setTags(null);
  };
  const choices = <T extends string>(pairs: readonly (readonly [T, string])[]) => [
    ...(otherwise ? [{ value: ASK, text: otherwise }] : []),
    ...pairs.map(([key, text]) => ({ value: key, text })),
  ];
  return (
    <div className="grid gap-3">
      <div onBlur={commit}>
        <Field
          label="Languages, the dearest first, as tags (en, es, pt-BR)"
          value={tags ?? value.languages.join(", ")}
          onChange={setTags}
          onEnter={commit}
          placeholder={otherwise}
        />
        {said && <p className="mt-1 text-[12.5px] text-quiet">{said}</p>}
      </div>
      <div>
        <span className="mb-1 block text-quiet">Sound</span>
        <Select
          label="Sound"
          value={value.sound || (otherwise ? ASK : "surround")}
          onChange={(next) => onChange({ sound: next === ASK ? "" : next })}
          choices={choices(SOUNDS)}
        />
      </div>
      <div>
        <span className="mb-1 block text-quiet">Subtitles</span>
        <Select
          label="Subtitles"
          value={value.subtitles || (otherwise ? ASK : "needed")}
          onChange={(next) => onChange({ subtitles: next === ASK ? "" : next })}
          choices={choices(SUBTITLES)}
        />
      </div>
    </div>
  );
}

/** What is wished, in a few words; empty where nothing is said. */
export function wishesText(wishes: Wishes): string {
  const subtitles = {
    needed: "subtitles when needed",
    forced: "forced subtitles only",
    always: "subtitles always",
    never: "no subtitles",
    "": "",
  }[wishes.subtitles];
  return [wishes.languages.join(", "), wishes.sound, subtitles].filter(Boolean).join(" · ");
}
