import { ArrowUp, X } from "lucide-react";
import { useState } from "react";

import type { Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { Checkbox } from "../../ui/checkbox";
import { Select } from "../../ui/select";
import { type Entry, type FieldSpec, outOfRange, shown, stored } from "./profile-values";

type Note = Schemas["FieldNote"];

export interface Notes {
  errors: Note[];
  warnings: Note[];
}

interface GroupProps {
  specs: FieldSpec[];
  entry: Entry;
  onChange: (entry: Entry) => void;
  /** Where the entry lies in the document: `video.0`, or empty for the document itself. */
  path: string;
  notes: Notes;
  label: string;
}

/** Fields of one entry, each with its help; what is wrong or odd stands where it was typed. */
export function FieldGroup({ specs, entry, onChange, path, notes, label }: GroupProps) {
  const set = (key: string, value: unknown) => {
    const rest = Object.entries(entry).filter(([name]) => name !== key);
    onChange(Object.fromEntries(value === undefined ? rest : [...rest, [key, value]]));
  };
  const whole = notes.errors.filter((note) => path && note.field === path);
  return (
    <>
      <div className="grid grid-cols-[repeat(auto-fill,minmax(190px,1fr))] gap-x-4 gap-y-3">
        {specs.map((spec) => (
          <OneField
            key={spec.key}
            spec={spec}
            value={entry[spec.key]}
            onChange={(value) => set(spec.key, value)}
            label={`${label}${spec.label}`}
            notes={notesFor(notes, path ? `${path}.${spec.key}` : spec.key)}
          />
        ))}
      </div>
      {whole.map((note) => (
        <p key={note.text} role="alert" className="mt-1.5 text-[13px] text-madder">
          {note.text}
        </p>
      ))}
    </>
  );
}

function notesFor(notes: Notes, field: string): Notes {
  const mine = (list: Note[]) =>
    list.filter((note) => note.field === field || note.field.startsWith(`${field}.`));
  return { errors: mine(notes.errors), warnings: mine(notes.warnings) };
}

function OneField({
  spec,
  value,
  onChange,
  label,
  notes,
}: {
  spec: FieldSpec;
  value: unknown;
  onChange: (value: unknown) => void;
  label: string;
  notes: Notes;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const text = typed ?? shown(spec, value);
  const range = spec.kind === "number" ? outOfRange(spec, text) : "";
  const wrong = notes.errors[0]?.text ?? range;
  return (
    <div>
      <span className="mb-0.5 block text-[13px] text-quiet">{spec.label}</span>
      {spec.kind === "choice" ? (
        <Select
          label={label}
          value={String(value ?? "")}
          onChange={onChange}
          choices={(spec.choices ?? []).map(([key, name]) => ({ value: key, text: name }))}
          placeholder="choose"
        />
      ) : spec.kind === "yes" ? (
        <span className="flex h-8 items-center gap-2">
          <Checkbox checked={value === true} label={label} onChange={(next) => onChange(next || undefined)} />{" "}
          {value === true ? "yes" : "no"}
        </span>
      ) : (
        <span className="flex items-center gap-1.5">
          <input
            aria-label={label}
            aria-invalid={Boolean(wrong)}
            value={text}
            onChange={(event) => (setTyped(event.target.value), onChange(stored(spec, event.target.value)))}
            onBlur={() => setTyped(null)}
            className="h-8 w-full min-w-0 rounded-lg border border-hairline bg-raised px-2.5 hover:border-quiet aria-invalid:border-madder"
          />
          {spec.unit && <span className="text-[13px] text-quiet">{spec.unit}</span>}
        </span>
      )}
      <p className={`mt-0.5 text-[12px] leading-snug ${wrong ? "text-madder" : "text-quiet"}`}>
        {wrong || spec.help}
      </p>
      {notes.warnings.map((note) => (
        <p key={note.text} className="text-[12px] leading-snug text-marigold-text">
          {note.text}
        </p>
      ))}
    </div>
  );
}

interface ListProps {
  name: string;
  one: string;
  specs: FieldSpec[];
  entries: Entry[];
  fresh: Entry;
  onChange: (entries: Entry[]) => void;
  path: string;
  notes: Notes;
}

/** Several entries of a kind, in order of preference. */
export function EntryList({ name, one, specs, entries, fresh, onChange, path, notes }: ListProps) {
  const change = (at: number, entry: Entry | null) =>
    onChange(entries.flatMap((old, place) => (place === at ? (entry ? [entry] : []) : [old])));
  const up = (at: number) =>
    onChange(
      entries.map((old, place) =>
        place === at - 1 ? (entries[at] ?? old) : place === at ? (entries[at - 1] ?? old) : old,
      ),
    );
  const missing = notes.errors.filter((note) => note.field === path);
  return (
    <section className="mt-6" aria-label={name}>
      <h2 className="flex items-center justify-between border-b border-hairline pb-1 text-[16px]">
        {name}
        <Button size="small" onClick={() => onChange([...entries, fresh])}>
          Add {one}
        </Button>
      </h2>
      {missing.map((note) => (
        <p key={note.text} role="alert" className="mt-1.5 text-[13px] text-madder">
          {note.text}
        </p>
      ))}
      {entries.map((entry, at) => (
        <div key={at} className="relative border-b border-hairline py-3 pr-16">
          <FieldGroup
            specs={specs}
            entry={entry}
            onChange={(next) => change(at, next)}
            path={`${path}.${at}`}
            notes={notes}
            label={`${name} ${at + 1}, `}
          />
          <span className="absolute top-3 right-0 flex gap-1">
            {at > 0 && (
              <Button
                look="quiet"
                size="icon"
                className="size-6"
                aria-label={`Prefer ${one} ${at + 1}`}
                onClick={() => up(at)}
              >
                <ArrowUp size={14} />
              </Button>
            )}
            <Button
              look="quiet"
              size="icon"
              className="size-6"
              aria-label={`Remove ${one} ${at + 1}`}
              onClick={() => change(at, null)}
            >
              <X size={14} />
            </Button>
          </span>
        </div>
      ))}
    </section>
  );
}
