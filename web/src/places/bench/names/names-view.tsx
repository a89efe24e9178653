import { useMemo, useState } from "react";
import { Link, useSearchParams } from "react-router";

import { usePicks } from "../../../api/picks";
import type { Schemas } from "../../../api/client";
import { useTags } from "../../../api/tags";
import { doubtsOf } from "../../../domain/tags";
import { counted } from "../../../domain/counts";
import { PlaceHead } from "../../../parts/place-head";
import { Button } from "../../../ui/button";
import { Notice } from "../../../ui/notice";
import { Empty, NotYet } from "../../../ui/states";
import { NamesDetails } from "./names-details";
import { NamesTable } from "./names-table";
import { NamesTools } from "./names-tools";
import { useEdits } from "./use-edits";

/** What is called how: the picked titles as a sheet, changed many at once. */
export function NamesView() {
  const [params] = useSearchParams();
  const picks = usePicks();
  const opened = Number(params.get("title")) || null;
  const ids = useMemo(() => {
    if (!picks.data) return undefined;
    const picked = picks.data.title_ids;
    return opened === null || picked.includes(opened) ? picked : [opened, ...picked];
  }, [picks.data, opened]);
  const tags = useTags(ids);
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <PlaceHead name="Names and tags" about={tags.data && aboutText(tags.data)}>
        <Button asChild>
          <Link to="/settings">Patterns of names</Link>
        </Button>
        <Button asChild>
          <Link to="/bench">Back to the Bench</Link>
        </Button>
      </PlaceHead>
      <NotYet query={tags} what="names and tags" />
      {tags.data?.titles.length === 0 && (
        <Empty
          title="No titles to name"
          action={
            <Button look="primary" asChild>
              <Link to="/shelf">Go to the Shelf</Link>
            </Button>
          }
        >
          Pick titles on the Shelf; here their files get their names.
        </Empty>
      )}
      {tags.data && tags.data.titles.length > 0 && ids && (
        <Sheet key={ids.join()} tags={tags.data} ids={ids} opened={opened} />
      )}
    </div>
  );
}

function aboutText(tags: Schemas["Tags"]): string {
  const doubts = tags.titles.reduce((sum, row) => sum + doubtsOf(row, tags.look_below), 0);
  const titles = counted(tags.titles.length, "title");
  return doubts ? `${titles} · ${counted(doubts, "value")} to look at` : titles;
}

interface Place {
  row: number;
  tag: string;
}

function Sheet({ tags, ids, opened }: { tags: Schemas["Tags"]; ids: number[]; opened: number | null }) {
  const edits = useEdits(tags.titles, ids);
  const first = tags.titles.findIndex((row) => row.title_id === opened);
  const [at, setAt] = useState<Place>({ row: Math.max(first, 0), tag: "title" });
  const row = tags.titles[at.row];
  return (
    <>
      <NamesTools tags={tags} ids={ids} at={at} edits={edits} />
      {edits.refused && (
        <div className="px-6 pb-3 max-md:px-3">
          <Notice look="fault">{edits.refused}</Notice>
        </div>
      )}
      <NamesTable tags={tags} at={at} onAt={setAt} onChange={edits.change} />
      {row && <NamesDetails row={row} at={at} tags={tags} onChange={edits.change} />}
    </>
  );
}
