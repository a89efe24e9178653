import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";

import { usePicks, useSetPicked, useSources } from "../../api/queries";
import { durationText } from "../../domain/durations";
import { type TimeScale, timeScale } from "../../domain/scales";
import { ActBar } from "../../parts/act-bar";
import { PlaceHead } from "../../parts/place-head";
import { Button } from "../../ui/button";
import { Empty, Failed, Loading } from "../../ui/states";
import { AddSource } from "./add-source";
import { SourceRow } from "./source-row";
import { TitlePanel } from "./title-panel";

export function ShelfPlace() {
  const { titleId } = useParams();
  const navigate = useNavigate();
  const [adding, setAdding] = useState(false);
  const sources = useSources();
  const picks = usePicks();
  const openTitle = titleId ? Number(titleId) : null;
  const picked = new Set(picks.data?.title_ids);
  const titles = (sources.data ?? []).flatMap((source) => source.titles);
  const scale = timeScale(Math.max(0, ...titles.map((title) => title.duration_s)));
  const chosen = titles.filter((title) => picked.has(title.id));

  return (
    <div className="flex min-h-0 flex-1">
      <div className="flex min-w-0 flex-1 flex-col pb-4">
        <PlaceHead name="Shelf" about={sources.data ? `${sources.data.length} sources · ${titles.length} titles` : undefined}>
          <Button look="primary" onClick={() => setAdding(true)}>
            Add a source
          </Button>
        </PlaceHead>
        {sources.isPending && <Loading what="the Shelf" />}
        {sources.isError && <Failed error={sources.error} onRetry={() => void sources.refetch()} />}
        {sources.data?.length === 0 && (
          <Empty title="Nothing on the Shelf yet" action={<Button look="primary" onClick={() => setAdding(true)}>Add a source</Button>}>
            Add a disc folder, a disc image or a media file. Rheon reads what is on it and picks what matters.
          </Empty>
        )}
        {titles.length > 0 && <ScaleRow scale={scale} />}
        <div className="mb-4 px-6 max-md:px-3">
          {sources.data?.map((source) => (
            <SourceRow
              key={source.id}
              source={source}
              scale={scale}
              picked={picked}
              openTitle={openTitle}
              onOpen={(id) => void navigate(id === openTitle ? "/shelf" : `/shelf/titles/${id}`)}
            />
          ))}
        </div>
        {chosen.length > 0 && <PickedBar ids={chosen.map((title) => title.id)} seconds={chosen.reduce((sum, t) => sum + t.duration_s, 0)} />}
      </div>
      {openTitle !== null && <TitlePanel key={openTitle} titleId={openTitle} picked={picked.has(openTitle)} />}
      <AddSource open={adding} onOpenChange={setAdding} />
    </div>
  );
}

function ScaleRow({ scale }: { scale: TimeScale }) {
  return (
    <div className="grid grid-cols-[200px_1fr] gap-x-4 px-6 text-[12px] text-quiet max-md:hidden" aria-hidden>
      <span />
      <div className="relative ml-7 h-6 border-b border-hairline">
        {scale.marks.map((mark) => (
          <span key={mark} className="absolute bottom-1 -translate-x-1/2 first:translate-x-0" style={{ left: `${scale.at(mark)}%` }}>
            {mark === 0 ? "0" : durationText(mark)}
          </span>
        ))}
      </div>
    </div>
  );
}

function PickedBar({ ids, seconds }: { ids: number[]; seconds: number }) {
  const setPicked = useSetPicked();
  return (
    <ActBar>
      <span className="font-semibold">
        {ids.length} {ids.length === 1 ? "title" : "titles"} picked
      </span>
      <span className="text-deep-quiet">{durationText(seconds)} in all</span>
      <div className="ml-auto flex items-center gap-4">
        <Button look="onDeep" size="text" onClick={() => setPicked.mutate({ title_ids: ids, picked: false })}>
          Clear
        </Button>
        <Button look="accent" asChild>
          <Link to="/bench">Take to the Bench →</Link>
        </Button>
      </div>
    </ActBar>
  );
}
