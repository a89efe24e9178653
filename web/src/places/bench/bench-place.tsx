import { useState } from "react";
import { Link, useNavigate } from "react-router";

import { useAddJobs, useSetBenchBalance, useTable } from "../../api/queries";
import { spanText } from "../../domain/durations";
import { sizeText } from "../../domain/sizes";
import { ActBar } from "../../parts/act-bar";
import { PlaceHead } from "../../parts/place-head";
import { Button } from "../../ui/button";
import { Segments } from "../../ui/segments";
import { Empty, Failed, Loading } from "../../ui/states";
import { BALANCES } from "./balances";
import { type Cell, cellKey, totalOf } from "./cells";
import { CrossingTable } from "./crossing-table";

export function BenchPlace() {
  const table = useTable();
  const setBalance = useSetBenchBalance();
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const pick = (cells: Cell[], on: boolean) => {
    const next = new Set(picked);
    for (const cell of cells) {
      if (on) next.add(cellKey(cell));
      else next.delete(cellKey(cell));
    }
    setPicked(next);
  };
  const chosen = table.data?.cells.filter((cell) => picked.has(cellKey(cell))) ?? [];
  const ready = table.data && table.data.titles.length > 0 && table.data.devices.length > 0;
  return (
    <div className="flex flex-1 flex-col pb-4">
      <PlaceHead name="Bench" about={ready ? `${table.data.titles.length} titles × ${table.data.devices.length} devices` : undefined}>
        {ready && (
          <>
            <span className="text-[13px] text-quiet">Balance</span>
            <Segments label="Balance" value={table.data.balance} options={BALANCES} onChange={(next) => setBalance.mutate(next)} />
            <Button asChild>
              <Link to="/household">Add a device</Link>
            </Button>
          </>
        )}
      </PlaceHead>
      {table.isPending && <Loading what="the Bench" />}
      {table.isError && <Failed error={table.error} onRetry={() => void table.refetch()} />}
      {table.data && !table.data.titles.length && (
        <Empty title="No titles on the Bench" action={<Button look="primary" asChild><Link to="/shelf">Go to the Shelf</Link></Button>}>
          Pick titles on the Shelf; here they meet your devices.
        </Empty>
      )}
      {table.data && table.data.titles.length > 0 && !table.data.devices.length && (
        <Empty title="No devices yet" action={<Button look="primary" asChild><Link to="/household">Go to the Household</Link></Button>}>
          Say what you watch on, and Rheon works out the rest.
        </Empty>
      )}
      {ready && <CrossingTable table={table.data} picked={picked} onPick={pick} />}
      {ready && !chosen.length && (
        <p className="px-6 py-3 text-[13px] text-quiet">Open a cell to see how its file will be made and why, or tick cells to convert them in one act.</p>
      )}
      {chosen.length > 0 && <ConvertBar cells={chosen} onDone={() => setPicked(new Set())} />}
    </div>
  );
}

function ConvertBar({ cells, onDone }: { cells: Cell[]; onDone: () => void }) {
  const add = useAddJobs();
  const navigate = useNavigate();
  const total = totalOf(cells);
  const files = `${total.files} ${total.files === 1 ? "file" : "files"}`;
  const convert = () =>
    add.mutate(
      cells.map(({ title_id, device_id }) => ({ title_id, device_id })),
      {
        onSuccess: () => {
          onDone();
          void navigate("/worklist");
        },
      },
    );
  return (
    <ActBar>
      <span className="font-semibold">
        {cells.length} {cells.length === 1 ? "cell" : "cells"} picked → {files}
      </span>
      <span className="text-deep-quiet">
        {sizeText(total.bytes)} · about {spanText(total.seconds)} ({spanText(total.low)} to {spanText(total.high)})
      </span>
      {add.isError && <span role="alert" className="rounded bg-madder px-2 py-0.5 text-madder-ink">{add.error.message}</span>}
      <div className="ml-auto flex items-center gap-4">
        <Button look="onDeep" size="text" onClick={onDone}>
          Clear
        </Button>
        <Button look="accent" onClick={convert} disabled={add.isPending}>
          Convert {files}
        </Button>
      </div>
    </ActBar>
  );
}
