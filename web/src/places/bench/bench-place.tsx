import { useCallback, useDeferredValue, useMemo, useState } from "react";
import { Link, useNavigate } from "react-router";

import { useCells, useSetBenchBalance, useTable } from "../../api/bench";
import { useAddJobs } from "../../api/worklist";
import { rangeText } from "../../domain/bounds";
import { counted } from "../../domain/counts";
import { spanText } from "../../domain/durations";
import { sizeText } from "../../domain/sizes";
import { ActBar } from "../../parts/act-bar";
import { PlaceHead } from "../../parts/place-head";
import { Button } from "../../ui/button";
import { Segments } from "../../ui/segments";
import { Empty, Failed, NotYet } from "../../ui/states";
import { AddColumn } from "./add-column";
import { BALANCES } from "../../domain/balances";
import { type Cell, cellKey, chunked, rowsOf, type Table, totalOf } from "./cells";
import { CrossingTable } from "./crossing-table";
import { NOTHING_WHOLE, usePicking, type Whole } from "./picking";

const CHUNK = 8;

export function BenchPlace() {
  const table = useTable();
  const setBalance = useSetBenchBalance();
  const ready = table.data && table.data.titles.length > 0 && table.data.targets.length > 0;
  return (
    <div className="flex flex-1 flex-col pb-4">
      <PlaceHead
        name="Bench"
        about={
          ready
            ? `${counted(table.data.titles.length, "title")} × ${counted(table.data.targets.length, "column")}`
            : undefined
        }
      >
        {ready && (
          <>
            <span className="text-[13px] text-quiet">Balance</span>
            <Segments
              label="Balance"
              value={table.data.balance}
              options={BALANCES}
              onChange={(next) => setBalance.mutate(next)}
            />
            <AddColumn table={table.data} />
            <Button asChild>
              <Link to="/bench/names">Names and tags</Link>
            </Button>
            <Button asChild>
              <Link to="/household">Add a device</Link>
            </Button>
          </>
        )}
      </PlaceHead>
      <NotYet query={table} what="the Bench" />
      {table.data && !table.data.titles.length && (
        <Empty
          title="No titles on the Bench"
          action={
            <Button look="primary" asChild>
              <Link to="/shelf">Go to the Shelf</Link>
            </Button>
          }
        >
          Pick titles on the Shelf; here they meet your devices.
        </Empty>
      )}
      {table.data && table.data.titles.length > 0 && !table.data.targets.length && (
        <Empty
          title="No devices yet"
          action={
            <Button look="primary" asChild>
              <Link to="/household">Go to the Household</Link>
            </Button>
          }
        >
          Say what you watch on, and Rheon works out the rest.
        </Empty>
      )}
      {ready && <Crossing table={table.data} />}
    </div>
  );
}

/** The table with its cells, which come piece by piece, those in view first. */
function Crossing({ table }: { table: Table }) {
  // told in chunks: a row more or less in view changes nothing that is asked for
  const [view, setView] = useState({ first: 0, last: 1 });
  const onView = useCallback((firstRow: number, lastRow: number) => {
    const first = Math.floor(firstRow / CHUNK);
    const last = Math.floor(lastRow / CHUNK);
    setView((old) => (old.first === first && old.last === last ? old : { first, last }));
  }, []);
  const chunks = useMemo(
    () =>
      chunked(
        table.titles.map((title) => title.id),
        CHUNK,
      ),
    [table.titles],
  );
  const inView = (chunk: number) => view.first <= chunk && chunk <= view.last;
  const [wholes, setWholes] = useState<ReadonlySet<Whole>>(NOTHING_WHOLE);
  const found = useCells(chunks, table.balance, inView, wholes.size > 0);
  const lists = found.map((query) => query.data);
  const failed = found.find((query) => query.isError);
  const stamp =
    found.map((query) => `${query.dataUpdatedAt}${query.isPlaceholderData ? "…" : ""}`).join() +
    table.balance;
  const { rows, flat } = useMemo(() => {
    const rows = new Map<number, Cell[]>();
    const flat = new Map<string, Cell>();
    for (const list of lists) {
      for (const [title, row] of list ? rowsOf(list) : []) rows.set(title, row);
      for (const cell of list ?? []) flat.set(cellKey(cell), cell);
    }
    return { rows, flat };
    // the lists are new at each draw; what they hold is not
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [stamp]);
  // what was planned meanwhile is drawn when there is time for it: scrolling goes first
  const drawn = useDeferredValue(rows);
  const picking = usePicking(table, flat, wholes, setWholes);
  const chosen = [...picking.picked].flatMap((key) => flat.get(key) ?? []);
  if (failed?.error) return <Failed error={failed.error} onRetry={() => void failed.refetch()} />;
  return (
    <>
      <CrossingTable table={table} cells={drawn} picking={picking} onView={onView} />
      {chosen.length > 0 ? (
        <ConvertBar
          cells={chosen}
          unplanned={wholes.size ? table.titles.length - rows.size : 0}
          onDone={picking.clear}
        />
      ) : (
        <p className="px-6 py-3 text-[13px] text-quiet">
          Open a cell to see how its file will be made and why, or tick cells to convert them in one act; with
          Shift everything in between is ticked too.
        </p>
      )}
    </>
  );
}

function ConvertBar({ cells, unplanned, onDone }: { cells: Cell[]; unplanned: number; onDone: () => void }) {
  const navigate = useNavigate();
  const add = useAddJobs(() => {
    onDone();
    void navigate("/worklist");
  });
  const total = totalOf(cells);
  const files = `${total.files} ${total.files === 1 ? "file" : "files"}`;
  const convert = () => add.mutate(cells.map(({ title_id, target_id }) => ({ title_id, target_id })));
  return (
    <ActBar>
      <span className="font-semibold">
        {cells.length} {cells.length === 1 ? "cell" : "cells"} picked → {files}
      </span>
      <span className="text-deep-quiet">
        {unplanned
          ? `planning ${unplanned} more ${unplanned === 1 ? "title" : "titles"} …`
          : `${sizeText(total.bytes)} · about ${spanText(total.seconds)} (${rangeText(total.low, total.high, spanText)})`}
      </span>
      {add.isError && (
        <span role="alert" className="rounded bg-madder px-2 py-0.5 text-madder-ink">
          {add.error.message}
        </span>
      )}
      <div className="ml-auto flex items-center gap-4">
        <Button look="onDeep" size="text" onClick={onDone}>
          Clear
        </Button>
        <Button look="accent" onClick={convert} disabled={add.isPending || unplanned > 0}>
          Convert {files}
        </Button>
      </div>
    </ActBar>
  );
}
