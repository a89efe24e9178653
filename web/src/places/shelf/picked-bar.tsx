import { useState } from "react";
import { Link, useNavigate } from "react-router";

import { useSetPicked } from "../../api/picks";
import type { Schemas } from "../../api/client";
import { useJoinTitles } from "../../api/queries";
import { durationText } from "../../domain/durations";
import { ActBar } from "../../parts/act-bar";
import { Button } from "../../ui/button";
import { JoinTitles, type Part } from "./join-titles";

interface Props {
  titles: Schemas["TitleOutline"][];
  sources: Schemas["Source"][];
}

/** What is picked, and where it goes: to the Bench, or together into one. */
export function PickedBar({ titles, sources }: Props) {
  const setPicked = useSetPicked();
  const [joining, setJoining] = useState(false);
  const ids = titles.map((title) => title.id);
  const seconds = titles.reduce((sum, title) => sum + title.duration_s, 0);
  return (
    <ActBar>
      <span className="font-semibold">
        {ids.length} {ids.length === 1 ? "title" : "titles"} picked
      </span>
      <span className="text-deep-quiet">{durationText(seconds)} in all</span>
      <div className="ml-auto flex flex-wrap items-center gap-4">
        <Button look="onDeep" size="text" onClick={() => setPicked.mutate({ title_ids: ids, picked: false })}>
          Clear
        </Button>
        {ids.length > 1 && (
          <Button look="onDeep" size="text" onClick={() => setJoining(true)}>
            Join into one…
          </Button>
        )}
        <Button look="accent" asChild>
          <Link to="/bench">Take to the Bench →</Link>
        </Button>
      </div>
      {joining && <Joining parts={partsOf(titles, sources)} onClose={() => setJoining(false)} />}
    </ActBar>
  );
}

function partsOf(titles: Props["titles"], sources: Props["sources"]): Part[] {
  const names = new Map(sources.flatMap((source) => source.titles.map((title) => [title.id, source.name])));
  return titles
    .filter((title) => title.part_count === 0)
    .map((title) => ({
      id: title.id,
      name: title.name,
      source: names.get(title.id) ?? "",
      duration_s: title.duration_s,
    }));
}

function Joining({ parts, onClose }: { parts: Part[]; onClose: () => void }) {
  const navigate = useNavigate();
  const join = useJoinTitles();
  const setPicked = useSetPicked();
  const done = (ids: number[], made: number) => {
    // what goes to the Bench now is the whole
    setPicked.mutate({ title_ids: ids, picked: false });
    setPicked.mutate({ title_ids: [made], picked: true });
    void navigate(`/shelf/titles/${made}`);
    onClose();
  };
  return (
    <JoinTitles
      title="Join into one"
      naming
      parts={parts}
      verb={(count) => `Join ${count} titles`}
      isPending={join.isPending}
      error={join.error?.message}
      onJoin={(titles, name) => join.mutate({ titles, name }, { onSuccess: ({ id }) => done(titles, id) })}
      onClose={onClose}
    />
  );
}
