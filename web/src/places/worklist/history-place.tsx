import { useMemo, useState } from "react";
import { Link } from "react-router";

import type { Schemas } from "../../api/client";
import { historyFile, type HistoryWanted, OUTCOMES, useHistory } from "../../api/history";
import { spanText } from "../../domain/durations";
import { comparedText } from "../../domain/history";
import { sizeText } from "../../domain/sizes";
import { useDebounced } from "../../parts/debounced";
import { LongList } from "../../parts/long-list";
import { PlaceHead } from "../../parts/place-head";
import { Button } from "../../ui/button";
import { Field } from "../../ui/field";
import { Segments } from "../../ui/segments";
import { Empty, NotYet } from "../../ui/states";
import { HistoryRow } from "./history-row";

type Total = Schemas["HistoryTotal"];

const TYPING_MS = 250;

export function HistoryPlace() {
  const [typed, setTyped] = useState("");
  const [outcome, setOutcome] = useState<HistoryWanted["outcome"]>("all");
  const q = useDebounced(typed.trim(), TYPING_MS);
  const wanted = useMemo<HistoryWanted>(() => ({ q, outcome }), [q, outcome]);
  const history = useHistory(wanted);
  const { first, records } = history;
  return (
    <div className="flex-1 pb-8">
      <PlaceHead name="History" about={first?.recorded ? countText(first.total) : undefined}>
        <Button look="link" size="text" asChild>
          <Link to="/worklist">← Worklist</Link>
        </Button>
        {first?.recorded && (
          <Button asChild>
            <a href={historyFile(wanted)} download>
              Save as CSV
            </a>
          </Button>
        )}
      </PlaceHead>
      <NotYet query={history} what="the history" />
      {first && !first.recorded && (
        <Empty title="Nothing was made yet">
          What became of each job is kept here, for years: when it was made, how long that took and how large
          it came out, and what had been expected.
        </Empty>
      )}
      {first?.recorded && (
        <div className="px-6 max-md:px-3">
          <div className="flex flex-wrap items-center gap-3 pb-3">
            <Field
              label="Find"
              hideLabel
              placeholder="Title, disc, device, file …"
              value={typed}
              onChange={setTyped}
              className="w-72 max-md:w-full"
            />
            <Segments label="Shown" value={outcome} options={OUTCOMES} onChange={setOutcome} />
            <span className="text-[13px] text-quiet">{comparedText(first.total)}</span>
          </div>
          {records.length ? (
            <LongList
              entries={records}
              label="Records"
              rowPx={58}
              row={(record) => <HistoryRow record={record} />}
              onEnd={history.more}
            />
          ) : (
            <p className="border-t border-hairline py-10 text-center text-quiet" role="status">
              {q ? `Nothing was recorded that holds “${q}”.` : "Nothing of that was recorded."}
            </p>
          )}
        </div>
      )}
    </div>
  );
}

function countText({ count, made, size_bytes, made_s }: Total): string {
  const parts = [count === 1 ? "1 job" : `${count} jobs`, made === 1 ? "1 made" : `${made} made`];
  if (made) parts.push(sizeText(size_bytes), `in ${spanText(made_s)}`);
  return parts.join(" · ");
}
