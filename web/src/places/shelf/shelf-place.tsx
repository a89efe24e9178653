import { useEffect, useMemo, useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";

import { usePicks, useSetPicked } from "../../api/picks";
import type { Schemas } from "../../api/client";
import { useLookOver, useSources } from "../../api/queries";
import { timeScale } from "../../domain/scales";
import { PlaceHead } from "../../parts/place-head";
import { useUndo } from "../../parts/undo";
import { Button } from "../../ui/button";
import { Empty, NotYet } from "../../ui/states";
import { AddSource } from "./add-source";
import { DriveRows } from "./drive-row";
import { PickedBar } from "./picked-bar";
import { ScaleRow } from "./scale-row";
import { ShelfList } from "./shelf-list";
import { ShelfTools } from "./shelf-tools";
import { TitlePanel } from "./title-panel";
import { arrange, between, blocksOf, isNarrowed, type View, WHOLE } from "./view";

export function ShelfPlace() {
  const { titleId } = useParams();
  const navigate = useNavigate();
  const [adding, setAdding] = useState(false);
  const [view, setView] = useState<View>(WHOLE);
  const lastPicked = useRef<number | null>(null);
  const { gone } = useUndo();
  const sources = useSources();
  const there = useMemo(
    () =>
      sources.data
        ?.filter((source) => !gone("source", source.id))
        .map((source) =>
          source.titles.some((title) => gone("join", title.id))
            ? { ...source, titles: source.titles.filter((title) => !gone("join", title.id)) }
            : source,
        ),
    [sources.data, gone],
  );
  const picks = usePicks();
  const setPicked = useSetPicked();
  const { mutate: lookOver } = useLookOver();
  useEffect(() => lookOver(), [lookOver]);

  const openTitle = titleId ? Number(titleId) : null;
  const picked = useMemo(() => new Set(picks.data?.title_ids), [picks.data]);
  const { all, shown, titles, scale, blocks, counts } = useShown(there, view);
  const chosen = all.filter((title) => picked.has(title.id));
  const able = titles.filter((title) => !title.fault && !picked.has(title.id));

  const { mutate: change } = setPicked;
  const marks = useMemo(
    () => ({
      scale,
      picked,
      openTitle,
      onOpen: (id: number) => void navigate(id === openTitle ? "/shelf" : `/shelf/titles/${id}`),
      onPick: (id: number, range: boolean) => {
        const ids = range && lastPicked.current !== null ? between(blocks, lastPicked.current, id) : [id];
        change({ title_ids: ids, picked: range || !picked.has(id) });
        lastPicked.current = id;
      },
      onPickAll: (ids: number[], picked: boolean) => change({ title_ids: ids, picked }),
    }),
    [scale, picked, openTitle, navigate, blocks, change],
  );

  return (
    <div className="flex min-h-0 flex-1">
      <div className="flex min-w-0 flex-1 flex-col pb-4">
        <PlaceHead
          name="Shelf"
          about={there ? aboutText(there.length, all.length, titles.length) : undefined}
        >
          <PickMore able={able} isNarrowed={isNarrowed(view)} />
          <Button look="primary" onClick={() => setAdding(true)}>
            Add a source
          </Button>
        </PlaceHead>
        {all.length > 1 && <ShelfTools view={view} onView={setView} counts={counts} />}
        <DriveRows />
        <NotYet query={sources} what="the Shelf" />
        {there?.length === 0 && <NothingYet onAdd={() => setAdding(true)} />}
        {titles.length > 0 && <ScaleRow scale={scale} onFrom={(from) => setView({ ...view, from })} />}
        <ShelfList blocks={blocks} marks={marks} />
        {isNarrowed(view) && shown.length === 0 && (
          <Empty
            title="Nothing like that"
            action={<Button onClick={() => setView({ ...WHOLE, sort: view.sort })}>Show all</Button>}
          >
            None of the {all.length} titles on the Shelf is let through by what is chosen above.
          </Empty>
        )}
        {chosen.length > 0 && <PickedBar titles={chosen} sources={there ?? []} />}
      </div>
      {openTitle !== null && (
        <TitlePanel key={openTitle} titleId={openTitle} picked={picked.has(openTitle)} />
      )}
      <AddSource open={adding} onOpenChange={setAdding} />
    </div>
  );
}

/** What is shown of the Shelf, arranged and to scale. */
function useShown(sources: Schemas["Source"][] | undefined, view: View) {
  const all = useMemo(() => (sources ?? []).flatMap((source) => source.titles), [sources]);
  const shown = useMemo(() => arrange(sources ?? [], view), [sources, view]);
  const titles = useMemo(() => shown.flatMap((source) => source.titles), [shown]);
  const longest = Math.max(0, ...titles.map((title) => title.duration_s));
  const scale = useMemo(() => timeScale(longest, view.zoom, view.from), [longest, view.zoom, view.from]);
  const blocks = useMemo(() => blocksOf(shown, scale), [shown, scale]);
  const counts = useMemo(() => {
    const found = new Map<(typeof all)[number]["role"], number>();
    for (const title of all) found.set(title.role, (found.get(title.role) ?? 0) + 1);
    return found;
  }, [all]);
  return { all, shown, titles, scale, blocks, counts };
}

type Titles = Schemas["Source"]["titles"];

/** Picks at one click what somebody would pick one by one. */
function PickMore({ able, isNarrowed }: { able: Titles; isNarrowed: boolean }) {
  const setPicked = useSetPicked();
  const pick = (titles: Titles) =>
    setPicked.mutate({ title_ids: titles.map((title) => title.id), picked: true });
  const episodes = able.filter((title) => title.role === "episode");
  return (
    <>
      {episodes.length > 1 && (
        <Button onClick={() => pick(episodes)}>Pick {episodes.length} more episodes</Button>
      )}
      {isNarrowed && able.length > 0 && <Button onClick={() => pick(able)}>Pick all shown</Button>}
    </>
  );
}

function aboutText(sources: number, all: number, shown: number): string {
  const titles = shown === all ? `${all} titles` : `${shown} of ${all} titles`;
  return `${sources} ${sources === 1 ? "source" : "sources"} · ${titles}`;
}

function NothingYet({ onAdd }: { onAdd: () => void }) {
  return (
    <Empty
      title="Nothing on the Shelf yet"
      action={
        <div className="flex flex-wrap justify-center gap-3">
          <Button look="primary" onClick={onAdd}>
            Add a source
          </Button>
          <Button asChild>
            <Link to="/start">Take a whole folder of films</Link>
          </Button>
        </div>
      }
    >
      Add a disc folder, a disc image, a media file or a folder of them. Rheon reads what is on it and picks
      what matters.
    </Empty>
  );
}
