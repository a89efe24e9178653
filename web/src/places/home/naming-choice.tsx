import { useState } from "react";

import type { Schemas } from "../../api/client";
import { useChangeNaming, useNaming, useTryNaming } from "../../api/tags";
import { capital } from "../../domain/counts";
import { useDebounced } from "../../parts/debounced";
import { Button } from "../../ui/button";
import { NotYet } from "../../ui/states";
import { ChoiceList, ChoiceRow } from "./choice-row";

type Naming = Schemas["Naming"];
type Pattern = Schemas["Pattern"];
type Kind = Pattern["kind"];

/** By which patterns files are called: one of two ways, or the person's own. */
export function NamingChoice() {
  const naming = useNaming();
  const change = useChangeNaming();
  const [own, setOwn] = useState(false);
  if (!naming.data) return <NotYet query={naming} what="the patterns" />;
  const { preset, presets } = naming.data;
  const isOwn = own || preset === null;
  return (
    <div className="grid gap-3">
      <ChoiceList label="Names of files">
        {presets.map(({ name, text, examples }) => (
          <ChoiceRow
            key={name}
            kind="radio"
            checked={!isOwn && preset === name}
            onChange={() => {
              setOwn(false);
              change.mutate({ preset: name, patterns: {} });
            }}
            name={capital(text)}
            detail={examples.join(" · ")}
          />
        ))}
        <ChoiceRow
          kind="radio"
          checked={isOwn}
          onChange={() => setOwn(true)}
          name="Patterns of your own"
          detail="A name in {{ braces }} is filled in; a / begins a folder."
        />
      </ChoiceList>
      {isOwn && <OwnPatterns naming={naming.data} />}
      {change.isError && (
        <p role="alert" className="text-[13px] text-madder">
          {change.error.message}
        </p>
      )}
    </div>
  );
}

const TYPED_MS = 250;

function OwnPatterns({ naming }: { naming: Naming }) {
  const [typed, setTyped] = useState<Partial<Record<Kind, string>>>({});
  const change = useChangeNaming();
  const settled = useDebounced(typed, TYPED_MS);
  const tried = useTryNaming(Object.keys(settled).length ? settled : null);
  const shown = (Object.keys(settled).length && tried.data ? tried.data : naming).patterns;
  const faulty = shown.some(({ fault }) => fault);
  const keep = () => change.mutate({ patterns: typed }, { onSuccess: () => setTyped({}) });
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
    >
      {naming.patterns.map(({ kind, label, text }) => (
        <PatternField
          key={kind}
          label={capital(label)}
          text={typed[kind] ?? text}
          shown={shown.find((one) => one.kind === kind)}
          onText={(next) => setTyped((old) => ({ ...old, [kind]: next }))}
        />
      ))}
      <p className="text-[13px] text-quiet">
        A pattern can name{" "}
        {naming.places.map(({ name, about }, place) => (
          <span key={name} title={about}>
            {place > 0 && ", "}
            <code className="text-[12.5px]">{name}</code>
          </span>
        ))}
        ; <code className="text-[12.5px]">{"{% if year %} … {% endif %}"}</code> leaves out what nobody knows.
      </p>
      <div className="flex items-center gap-3">
        <Button
          type="submit"
          look="primary"
          disabled={!Object.keys(typed).length || faulty || typed !== settled || change.isPending}
        >
          Use these patterns
        </Button>
        {change.isError && (
          <p role="alert" className="text-[13px] text-madder">
            {change.error.message}
          </p>
        )}
      </div>
    </form>
  );
}

interface FieldProps {
  label: string;
  text: string;
  shown: Pattern | undefined;
  onText: (text: string) => void;
}

function PatternField({ label, text, shown, onText }: FieldProps) {
  return (
    <label className="block">
      <span className="mb-1 block text-quiet">{label}</span>
      <input
        value={text}
        onChange={(event) => onText(event.target.value)}
        spellCheck={false}
        aria-invalid={Boolean(shown?.fault)}
        className="h-8 w-full rounded-lg border border-hairline bg-raised px-2.5 font-mono text-[12.5px] hover:border-quiet"
      />
      <span
        role="status"
        className={`mt-0.5 block text-[12.5px] break-words ${shown?.fault ? "text-madder" : "text-quiet"}`}
      >
        {shown?.fault || (shown && `→ ${shown.example}`)}
      </span>
    </label>
  );
}
