import { useState } from "react";

import { useEvenChapters, useReadChapters, useSetChapters } from "../../api/chapters";
import type { Schemas } from "../../api/client";
import { capital, counted } from "../../domain/counts";
import { momentText } from "../../domain/durations";
import { useDebounced } from "../../parts/debounced";
import { Button } from "../../ui/button";
import { Checkbox } from "../../ui/checkbox";
import { Dialog } from "../../ui/dialog";
import { Field } from "../../ui/field";
import { Notice } from "../../ui/notice";
import { Select } from "../../ui/select";
import { Tabs } from "../../ui/tabs";
import { ListInput } from "./list-input";

type Title = Schemas["Title"];
type Way = "list" | "pattern" | "even";

const TYPED_MS = 300;
const MINUTES = [1, 2, 5, 10, 15, 20, 30];
const USUAL_CHAPTERS = 12;

/** Names for a title's chapters from a list or a pattern, or chapters for one that has none: seen before they count. */
export function ChapterNames({ title, onClose }: { title: Title; onClose: () => void }) {
  const named = title.chapters.length > 0;
  const fitting = MINUTES.filter((minutes) => title.duration_s >= minutes * 90);
  const [way, setWay] = useState<Way>(named || !fitting.length ? "list" : "even");
  const [text, setText] = useState("");
  const [pattern, setPattern] = useState("{{ title }}, {{ number }}");
  const [minutes, setMinutes] = useState(
    fitting.find((each) => title.duration_s / 60 / each <= USUAL_CHAPTERS) ?? fitting.at(-1) ?? 1,
  );
  const [alike, setAlike] = useState(false);
  const typed = useDebounced(way === "pattern" ? { pattern } : { text }, TYPED_MS);
  const wanted = way !== "even" && Object.values(typed).some((said) => said.trim()) ? typed : null;
  const read = useReadChapters(title.id, wanted);
  const even = useEvenChapters(title.id, way === "even" ? minutes * 60 : null);
  const set = useSetChapters(title.id, onClose);
  const found = way === "even" ? even : read;
  const chapters = (way === "even" || wanted) && !found.isError ? (found.data?.chapters ?? []) : [];
  const others = way === "even" ? [] : title.chapters_alike;
  const take = () =>
    set.mutate({
      chapters: chapters.map(({ start_s, name }) => ({ start_s, name: name ?? "" })),
      alike: alike ? others : [],
    });
  const tabs = [
    { value: "list", text: "From a list", content: <ListInput text={text} onText={setText} /> },
    ...(named
      ? [{ value: "pattern", text: "By a pattern", content: <PatternInput {...{ pattern, setPattern }} /> }]
      : []),
    { value: "even", text: "Made anew", content: <LengthInput {...{ fitting, minutes, setMinutes }} /> },
  ];
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={named ? "Name the chapters" : "Make chapters"}
      about={`Of ${title.name}. They go into every file that is made of it; the source stays as it is.`}
      footer={
        <>
          {others.length > 0 && chapters.length > 0 && (
            <label className="mr-auto inline-flex items-center gap-2.5">
              <Checkbox
                label="Give these names to the others too"
                checked={alike}
                onChange={(on) => setAlike(on)}
              />
              {others.length === 1
                ? "Name those of the other one like it too"
                : `Name those of the ${others.length} others like it too`}
            </label>
          )}
          <Button onClick={onClose}>Cancel</Button>
          <Button look="primary" disabled={!chapters.length || set.isPending} onClick={take}>
            {chapters.length ? `Use ${counted(chapters.length, "chapter")}` : "Use them"}
          </Button>
        </>
      }
    >
      <Tabs
        value={way}
        onChange={(said) => setWay(said === "pattern" || said === "even" ? said : "list")}
        tabs={tabs}
      />
      {found.data?.told.map((said) => (
        <Notice key={said} look="reason">
          {capital(said)}.
        </Notice>
      ))}
      {(found.error ?? set.error) && <Notice look="fault">{(found.error ?? set.error)?.message}</Notice>}
      {found.data?.looking && (
        <p role="status" className="mt-3 text-quiet">
          Looking for changes of scene …
        </p>
      )}
      <Proposed chapters={chapters} />
    </Dialog>
  );
}

interface PatternProps {
  pattern: string;
  setPattern: (pattern: string) => void;
}

function PatternInput({ pattern, setPattern }: PatternProps) {
  return (
    <>
      <Field label="What each is called" value={pattern} onChange={setPattern} />
      <p className="mt-1 text-[12.5px] text-quiet">
        <code>{"{{ number }}"}</code> counts; <code>{"{{ title }}"}</code>, <code>{"{{ show }}"}</code> and
        the other tags are filled in.
      </p>
    </>
  );
}

interface LengthProps {
  fitting: readonly number[];
  minutes: number;
  setMinutes: (minutes: number) => void;
}

function LengthInput({ fitting, minutes, setMinutes }: LengthProps) {
  if (!fitting.length) return <p className="text-quiet">This title is too short to be divided.</p>;
  return (
    <p className="flex flex-wrap items-center gap-2">
      About one every
      <Select
        label="Length of a chapter"
        value={String(minutes)}
        onChange={(said) => setMinutes(Number(said))}
        choices={fitting.map((each) => ({ value: String(each), text: counted(each, "minute") }))}
      />
      each where the scene changes next to it.
    </p>
  );
}

function Proposed({ chapters }: { chapters: readonly Schemas["Chapter"][] }) {
  if (!chapters.length) return null;
  return (
    <ol aria-label="What comes of it" className="mt-3 border-t border-hairline">
      {chapters.map((chapter) => (
        <li key={chapter.number} className="flex gap-3 border-b border-hairline py-1">
          <span className="w-6 shrink-0 text-right text-quiet">{chapter.number}</span>
          <span className={`min-w-0 flex-1 break-words ${chapter.name ? "" : "text-quiet"}`}>
            {chapter.name ?? "without a name"}
          </span>
          <span className="text-quiet">{momentText(chapter.start_s)}</span>
        </li>
      ))}
    </ol>
  );
}
