import { Link, useParams } from "react-router";

import type { Schemas } from "../../api/client";
import { useOutbox } from "../../api/queries";
import { spanText } from "../../domain/durations";
import { sizeText } from "../../domain/sizes";
import { Frame } from "../../parts/frame";
import { PlaceHead } from "../../parts/place-head";
import { Button } from "../../ui/button";
import { Empty, Failed, Loading } from "../../ui/states";
import { OutputView } from "./output-view";

type Output = Schemas["Output"];

export function OutboxPlace() {
  const outbox = useOutbox();
  const { outputId } = useParams();
  const outputs = outbox.data ?? [];
  const shown = outputs.find((output) => output.id === Number(outputId)) ?? outputs[0];
  const total = outputs.reduce((sum, output) => sum + output.size_bytes, 0);
  return (
    <div className="flex flex-1 flex-col">
      <PlaceHead name="Outbox" about={outputs.length ? `${outputs.length} ${outputs.length === 1 ? "file" : "files"} · ${sizeText(total)}` : undefined} />
      {outbox.isPending && <Loading what="the Outbox" />}
      {outbox.isError && <Failed error={outbox.error} onRetry={() => void outbox.refetch()} />}
      {outbox.data && !outputs.length && (
        <Empty title="No files yet" action={<Button look="primary" asChild><Link to="/bench">Go to the Bench</Link></Button>}>
          What the Worklist finishes and checks arrives here, ready to be watched and handed over.
        </Empty>
      )}
      {shown && (
        <div className="grid flex-1 grid-cols-[minmax(280px,38%)_minmax(0,1fr)] border-t border-hairline max-md:grid-cols-1 md:h-[calc(100dvh-129px)] md:flex-none">
          <ul aria-label="Outputs" className="overflow-y-auto border-r border-hairline max-md:max-h-60">
            {outputs.map((output) => (
              <OutputRow key={output.id} output={output} shown={output.id === shown.id} />
            ))}
          </ul>
          <OutputView key={shown.id} output={shown} />
        </div>
      )}
    </div>
  );
}

function OutputState({ output }: { output: Output }) {
  const held = output.checks.every((check) => check.kept === check.rules.length);
  const said = output.present ? (held ? "ready" : "see its check") : "gone";
  return <span className={`text-[12.5px] font-semibold ${said === "ready" ? "text-moss" : "text-madder"}`}>{said}</span>;
}

function OutputRow({ output, shown }: { output: Output; shown: boolean }) {
  return (
    <li className={`border-b border-hairline ${shown ? "border-l-4 border-l-marigold bg-raised" : "border-l-4 border-l-transparent"}`}>
      <Link to={`/outbox/${output.id}`} aria-current={shown} className="flex items-center gap-4 py-2.5 pr-4 pl-5">
        <Frame titleId={output.title_id} number={2} className="h-[60px] w-[46px] shrink-0 rounded object-cover" />
        <span className="min-w-0 flex-1">
          <span className="block truncate font-semibold" title={output.title_name}>{output.title_name}</span>
          <span className="block truncate text-[12.5px] text-quiet">for {output.device_names.join(", ")}</span>
          <span className="block text-[12.5px] text-quiet">
            {sizeText(output.size_bytes)} · made in {spanText(output.making_s)}
          </span>
        </span>
        <OutputState output={output} />
      </Link>
    </li>
  );
}
