import { useState } from "react";

import type { Schemas } from "../../../api/client";
import { counted } from "../../../domain/counts";
import { filledDown, numberedUp, ofOneWork, replaced } from "../../../domain/tags";
import { Button } from "../../../ui/button";
import { Field } from "../../../ui/field";
import { Popover } from "../../../ui/popover";
import { Tip } from "../../../ui/tip";
import { OutdatedFiles } from "./outdated-files";
import { LookUp } from "./look-up";
import type { Edits } from "./use-edits";

const COUNTED = ["episode", "part"];
const NOT_TEXT = ["kind", "year", "season", ...COUNTED];

interface Props {
  tags: Schemas["Tags"];
  ids: readonly number[];
  at: { row: number; tag: string };
  edits: Edits;
}

/** What is done to many titles in one act. */
export function NamesTools({ tags, ids, at, edits }: Props) {
  const rows = tags.titles;
  const row = rows[at.row];
  const label = tags.fields.find(({ name }) => name === at.tag)?.label ?? "";
  const down = filledDown(rows, at.row, at.tag);
  const up = COUNTED.includes(at.tag) ? numberedUp(rows, at.row, at.tag) : [];
  return (
    <div
      role="toolbar"
      aria-label="Many titles at once"
      className="flex flex-wrap items-center gap-3 px-6 pb-3 max-md:px-3"
    >
      <Tip text="Gives this value to all titles below it that are of its kind.">
        <Button disabled={!down.length} onClick={() => void edits.change(`Fill down ${label}`, down)}>
          Fill {label} down{down.length > 0 && ` (${down.length})`}
        </Button>
      </Tip>
      <Tip text="Counts on from this number for all titles below it that are of its kind.">
        <Button disabled={!up.length} onClick={() => void edits.change(`Number ${label} up`, up)}>
          Number up{up.length > 0 && ` (${up.length})`}
        </Button>
      </Tip>
      <FindAndReplace tags={tags} edits={edits} />
      {row && <LookUp key={row.title_id} rows={ofOneWork(rows, at.row)} row={row} onTake={edits.change} />}
      <Button disabled={!edits.undo || edits.busy} onClick={() => edits.undo?.()}>
        {edits.last ? `Undo “${edits.last}”` : "Undo"}
      </Button>
      <OutdatedFiles titles={ids} />
      <span role="status" className="text-[13px] text-quiet">
        {edits.busy && "Saving …"}
      </span>
    </div>
  );
}

function FindAndReplace({ tags, edits }: { tags: Schemas["Tags"]; edits: Edits }) {
  const [open, setOpen] = useState(false);
  const [find, setFind] = useState("");
  const [put, setPut] = useState("");
  const texts = tags.fields.map(({ name }) => name).filter((name) => !NOT_TEXT.includes(name));
  const changes = replaced(tags.titles, texts, find, put);
  const replace = () => {
    void edits.change(`Replace “${find}”`, changes);
    setOpen(false);
  };
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label="Find and replace"
      trigger={<Button>Find and replace …</Button>}
    >
      <div className="grid gap-2.5">
        <Field label="Find" value={find} onChange={setFind} autoFocus />
        <Field
          label="Replace with"
          value={put}
          onChange={setPut}
          onEnter={() => changes.length && replace()}
        />
        <p className="text-[12.5px] text-quiet" role="status">
          {find
            ? `In ${counted(changes.length, "value")}, whatever its capitals.`
            : "In all texts of all titles here."}
        </p>
        <Button look="primary" disabled={!changes.length} onClick={replace}>
          Replace
        </Button>
      </div>
    </Popover>
  );
}
