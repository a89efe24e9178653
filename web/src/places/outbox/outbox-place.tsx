import { useVirtualizer } from "@tanstack/react-virtual";
import { memo, useCallback, useMemo, useRef } from "react";
import { Link, useParams, useSearchParams } from "react-router";

import type { Schemas } from "../../api/client";
import { useOutbox, useOutput } from "../../api/queries";
import { spanText } from "../../domain/durations";
import { sizeText } from "../../domain/sizes";
import { Frame } from "../../parts/frame";
import { useUndo } from "../../parts/undo";
import { Button } from "../../ui/button";
import { Empty, Failed, Loading, NotYet } from "../../ui/states";
import { FILES, type Group, SHOWN, TO_TRY } from "./groups";
import { OutboxHead } from "./outbox-head";
import { OutputView } from "./output-view";

type Outline = Schemas["Outline"];

const ROW_PX = 81;

export function OutboxPlace() {
  const outbox = useOutbox();
  const { outputId } = useParams();
  const { gone } = useUndo();
  const all = useMemo(
    () => (outbox.outputs ?? []).filter((output) => !gone("output", output.id)),
    [outbox.outputs, gone],
  );
  const { group, outputs, shownId } = useGroup(all, outputId ? Number(outputId) : undefined);
  return (
    <div className="flex flex-1 flex-col">
      <OutboxHead outbox={outbox} group={group} />
      <NotYet query={outbox} what="the Outbox" />
      {outbox.outputs && !outbox.count && !outbox.samples && (
        <Empty
          title="No files yet"
          action={
            <Button look="primary" asChild>
              <Link to="/bench">Go to the Bench</Link>
            </Button>
          }
        >
          What the Worklist finishes and checks arrives here, ready to be watched and handed over.
        </Empty>
      )}
      {outputs.length > 0 && (
        <div className="grid flex-1 grid-cols-[minmax(280px,38%)_minmax(0,1fr)] border-t border-hairline max-md:grid-cols-1 md:h-[calc(100dvh-129px)] md:flex-none">
          {/* on a phone there is room for one of them: the list, or the file that was chosen from it */}
          <OutputList
            outputs={outputs}
            shownId={shownId}
            className={outputId ? "max-md:hidden" : "max-md:h-[calc(100dvh-155px)]"}
          />
          {shownId !== undefined && (
            <div className={`min-h-0 min-w-0 md:contents ${outputId ? "" : "max-md:hidden"}`}>
              <Link to="/outbox" className="block px-3 py-2 font-semibold text-river md:hidden">
                ← All files
              </Link>
              <Shown key={shownId} id={shownId} />
            </div>
          )}
        </div>
      )}
    </div>
  );
}

/** Files, or what was only made to be tried; whichever the chosen one is among, or the address asks for. */
function useGroup(all: Outline[], chosenId: number | undefined) {
  const [search] = useSearchParams();
  const groups = useMemo(
    () => ({
      [FILES]: all.filter((output) => !output.is_sample),
      [TO_TRY]: all.filter((output) => output.is_sample),
    }),
    [all],
  );
  const chosen = all.find((output) => output.id === chosenId);
  const usual = chosen ? chosen.is_sample : !groups[FILES].length && groups[TO_TRY].length > 0;
  const group: Group = usual || search.get(SHOWN) === TO_TRY ? TO_TRY : FILES;
  const outputs = group === TO_TRY ? groups[TO_TRY] : groups[FILES];
  const isShown = chosen !== undefined && outputs.includes(chosen);
  return { group, outputs, shownId: isShown ? chosen.id : (outputs[0]?.id ?? chosenId) };
}

/** The list; only what is in view of it is drawn, however long it is. */
function OutputList({
  outputs,
  shownId,
  className,
}: {
  outputs: Outline[];
  shownId: number | undefined;
  className: string;
}) {
  const list = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: outputs.length,
    estimateSize: () => ROW_PX,
    getScrollElement: () => list.current,
    overscan: 8,
    getItemKey: useCallback((index: number) => outputs[index]?.id ?? index, [outputs]),
  });
  return (
    <div ref={list} className={`overflow-y-auto border-r border-hairline ${className}`}>
      <ul aria-label="Outputs" className="relative" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map((item) => {
          const output = outputs[item.index];
          return (
            output && (
              <li
                key={item.key}
                className="absolute inset-x-0 top-0"
                style={{ height: ROW_PX, transform: `translateY(${item.start}px)` }}
              >
                <OutputRow output={output} shown={output.id === shownId} />
              </li>
            )
          );
        })}
      </ul>
    </div>
  );
}

function Shown({ id }: { id: number }) {
  const output = useOutput(id);
  if (output.isPending) return <Loading what="the file" />;
  if (output.isError) return <Failed error={output.error} onRetry={() => void output.refetch()} />;
  return <OutputView output={output.data} />;
}

function OutputState({ output }: { output: Outline }) {
  const said = output.present ? (output.held ? "ready" : "see its check") : "gone";
  return (
    <span className={`text-[12.5px] font-semibold ${said === "ready" ? "text-moss" : "text-madder"}`}>
      {said}
    </span>
  );
}

const OutputRow = memo(function OutputRow({ output, shown }: { output: Outline; shown: boolean }) {
  return (
    <Link
      to={`/outbox/${output.id}`}
      aria-current={shown}
      className={`flex h-full items-center gap-4 border-b border-l-4 border-hairline pr-4 pl-5 ${shown ? "border-l-marigold bg-raised" : "border-l-transparent"}`}
    >
      <Frame
        titleId={output.title_id}
        number={2}
        className="h-[60px] w-[46px] shrink-0 rounded object-cover"
      />
      <span className="min-w-0 flex-1">
        <span className="block truncate font-semibold" title={output.title_name}>
          {output.title_name}
        </span>
        <span className="block truncate text-[12.5px] text-quiet">for {output.device_names.join(", ")}</span>
        <span className="block text-[12.5px] text-quiet">
          {sizeText(output.size_bytes)} · made in {spanText(output.making_s + output.checking_s)}
        </span>
      </span>
      <OutputState output={output} />
    </Link>
  );
});
