import { Pin, TriangleAlert } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";

import type { Schemas } from "../../api/client";
import { tagsLine } from "../../domain/tags";
import { Button } from "../../ui/button";
import { Select } from "../../ui/select";
import { Tip } from "../../ui/tip";
import { NumberPin } from "./number-pin";

type Decision = Schemas["Decision"];

interface Props {
  sheet: Schemas["Sheet"];
  onPin: (key: string, value: string | null) => void;
}

const GROUPS = [
  ["range", "Kept range"],
  ["picture", "Picture"],
  ["sound", "Sound"],
  ["subtitles", "Subtitles"],
  ["file", "File"],
] as const;

const spoken = (decision: Decision) => !decision.fine || decision.pinned || decision.broken.length > 0;

/** Every decision with its reason and its pin; those that few people ask about are shown on demand. */
export function DecisionList({ sheet, onPin }: Props) {
  const [all, setAll] = useState(false);
  const hidden = sheet.decisions.filter(({ group }) => group !== "tags").filter((one) => !spoken(one)).length;
  return (
    <>
      {GROUPS.map(([group, name]) => {
        const decisions = sheet.decisions.filter(
          (decision) => decision.group === group && (all || spoken(decision)),
        );
        if (!decisions.length) return null;
        return (
          <section key={group} className="mb-4" aria-label={name}>
            <h2 className="border-b border-hairline pb-1 text-[15px]">{name}</h2>
            {group === "file" && <TagsRow sheet={sheet} />}
            {decisions.map((decision) => (
              <DecisionRow
                key={decision.key}
                decision={decision}
                onPin={(value) => onPin(decision.key, value)}
              />
            ))}
          </section>
        );
      })}
      {(hidden > 0 || all) && (
        <Button look="link" size="text" aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? "Show only the main settings" : `Show ${hidden} more settings`}
        </Button>
      )}
    </>
  );
}

/** What is written in the file, in a line; it is the same for all files of the title. */
function TagsRow({ sheet }: { sheet: Schemas["Sheet"] }) {
  const tags = sheet.decisions.filter(({ group }) => group === "tags");
  if (!tags.length) return null;
  const said = Object.fromEntries(tags.map(({ key, value }) => [key.replace("file.", ""), value]));
  return (
    <div className="grid grid-cols-[84px_minmax(0,1fr)_auto] items-start gap-x-3 border-b border-hairline py-1.5">
      <Tip text="What players and libraries show of the file, and what its name is made of.">
        <span className="w-fit cursor-help text-quiet" tabIndex={-1}>
          Tags
        </span>
      </Tip>
      <span className="min-w-0 font-semibold break-words">{tagsLine(said)}</span>
      <Button look="link" size="text" asChild>
        <Link to={`/bench/names?title=${sheet.title_id}`}>Name and tags</Link>
      </Button>
    </div>
  );
}

const SHARED = "grid-cols-[84px_minmax(0,1fr)_minmax(0,1.15fr)_24px]";
const WIDE =
  "grid-cols-[84px_minmax(0,1fr)_24px] [&>:nth-child(3)]:col-start-2 [&>:nth-child(3)]:row-start-2";

function DecisionRow({ decision, onPin }: { decision: Decision; onPin: (value: string | null) => void }) {
  // a name is long, and its reason is short
  const columns =
    decision.key === "file.name" ? WIDE : `${SHARED} max-md:grid-cols-[84px_minmax(0,1fr)_24px]`;
  return (
    <div className={`grid items-start gap-x-3 border-b border-hairline py-1.5 ${columns}`}>
      <Tip text={decision.help}>
        <span className="w-fit cursor-help text-quiet" tabIndex={-1}>
          {decision.label}
        </span>
      </Tip>
      <span className="min-w-0 font-semibold break-words">
        <Value decision={decision} onPin={onPin} />
      </span>
      <span className="text-[12.5px] leading-snug text-quiet max-md:col-start-2 max-md:row-start-2">
        {decision.reason}
        {decision.broken.map((breach) => (
          <span key={breach.device + breach.rule} className="mt-0.5 flex gap-1 font-semibold text-madder">
            <TriangleAlert size={13} className="mt-0.5 shrink-0" aria-hidden />
            <span>
              {breach.device}: {breach.consequence} ({breach.rule} {breach.measured}, it takes{" "}
              {breach.allowed})
            </span>
          </span>
        ))}
      </span>
      <PinMark decision={decision} onPin={onPin} />
    </div>
  );
}

function Value({ decision, onPin }: { decision: Decision; onPin: (value: string | null) => void }) {
  if (decision.key === "file.name") return <NameField decision={decision} onPin={onPin} />;
  return (
    <span className="flex items-start gap-1">
      {decision.choices.length > 1 ? (
        <span className="min-w-0">
          <Choices decision={decision} onPin={onPin} />
        </span>
      ) : (
        <span className="min-w-0">{decision.text}</span>
      )}
      {decision.ranges.length > 0 && <NumberPin decision={decision} onPin={onPin} />}
    </span>
  );
}

/** The values on offer; the one that holds is called by its full text. */
export function Choices({ decision, onPin }: { decision: Decision; onPin: (value: string | null) => void }) {
  const known = decision.choices.some((choice) => choice.value === decision.value);
  const shown = decision.choices.map((choice) =>
    choice.value === decision.value ? { ...choice, text: decision.text } : choice,
  );
  const choices = known ? shown : [{ value: decision.value, text: decision.text }, ...shown];
  return (
    <Select
      label={decision.label}
      value={decision.value}
      choices={choices}
      onChange={(value) => onPin(value === "auto" ? null : value)}
    />
  );
}

function NameField({ decision, onPin }: { decision: Decision; onPin: (value: string | null) => void }) {
  const [text, setText] = useState<string | null>(null);
  const commit = () => {
    if (text !== null && text.trim() && text !== decision.value) onPin(text);
    setText(null);
  };
  const extension = decision.text.slice(decision.text.lastIndexOf("."));
  const folders = decision.text.slice(0, decision.text.lastIndexOf("/") + 1);
  return (
    <span className="flex flex-wrap items-center gap-0.5">
      {folders && <span className="basis-full font-normal break-words text-quiet">{folders}</span>}
      <input
        aria-label="File name"
        value={text ?? decision.value}
        onChange={(event) => setText(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === "Enter") event.currentTarget.blur();
          if (event.key === "Escape") setText(null);
        }}
        className="min-w-0 flex-1 rounded-md border border-hairline bg-raised px-2 py-0.5 font-semibold hover:border-quiet"
      />
      <span className="text-quiet">{extension}</span>
    </span>
  );
}

function PinMark({ decision, onPin }: { decision: Decision; onPin: (value: string | null) => void }) {
  if (!decision.pinned) return <span aria-hidden />;
  return (
    <Tip text="Set by hand. Let Rheon choose again.">
      <Button
        look="quiet"
        size="icon"
        className="size-6"
        aria-label={`${decision.label}: let Rheon choose again`}
        onClick={() => onPin(null)}
      >
        <Pin size={14} className="fill-marigold text-marigold" />
      </Button>
    </Tip>
  );
}
