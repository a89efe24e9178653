import { useCutSeries, useProposals } from "../../api/bench";
import type { Schemas } from "../../api/client";
import { counted } from "../../domain/counts";
import { Button } from "../../ui/button";
import { isKept, type KeptRange, without } from "./kept";

type Sheet = Schemas["Sheet"];

interface Props {
  sheet: Sheet;
  kept: KeptRange[];
  onKept: (kept: KeptRange[]) => void;
}

/** What Rheon found that could be left out. It waits for a yes. */
export function Proposals({ sheet, kept, onKept }: Props) {
  const found = useProposals(sheet.title_id, sheet.strip > 0);
  const open = (found.data?.found ?? []).filter((one) => isKept(kept, one, sheet.duration_s));
  const all = open.reduce((left, one) => without(left, one, sheet.duration_s), kept);
  return (
    <div className="mt-2">
      {open.length > 0 && (
        <ul aria-label="Proposals">
          {open.map((one) => (
            <li
              key={one.from_s}
              className="flex flex-wrap items-center gap-x-3 gap-y-1 border-l-2 border-marigold py-1 pl-2.5"
            >
              <span className="font-semibold tabular-nums">{one.text}?</span>
              <span className="min-w-0 flex-1 text-[13px] text-quiet">{one.reason}</span>
              <Button size="small" onClick={() => onKept(without(kept, one, sheet.duration_s))}>
                Leave it out
              </Button>
            </li>
          ))}
        </ul>
      )}
      {open.length > 1 && (
        <Button look="link" size="small" onClick={() => onKept(all)}>
          Leave out all {open.length}
        </Button>
      )}
      <p role="status" className="text-[13px] text-quiet">
        {found.data?.looking && "Looking for logos, openings and credits…"}
      </p>
      {found.data && found.data.other_episodes > 0 && found.data.found.length > 0 && (
        <WholeSeries sheet={sheet} episodes={found.data.other_episodes + 1} />
      )}
    </div>
  );
}

/** The same for the other episodes, each where its own proposals lie. */
function WholeSeries({ sheet, episodes }: { sheet: Sheet; episodes: number }) {
  const cut = useCutSeries(sheet.title_id, sheet.target_id);
  const done = cut.data;
  return (
    <div>
      {(!done || cut.isError) && (
        <Button look="link" size="small" disabled={cut.isPending} onClick={() => cut.mutate()}>
          Leave out what is proposed in all {episodes} episodes
        </Button>
      )}
      <p role="status" className="text-[13px] text-quiet">
        {done && seriesText(done, episodes)}
      </p>
      {cut.isError && <p className="text-[13px] text-madder">{cut.error.message}</p>}
    </div>
  );
}

function seriesText({ cut, looking, nothing, failed }: Schemas["SeriesCut"], episodes: number): string {
  const parts = [`${cut} of ${counted(episodes, "episode")} are cut`];
  if (looking) parts.push(`${looking} still being looked at`);
  if (nothing) parts.push(`nothing is proposed for ${nothing}`);
  if (failed) parts.push(`${failed} can’t be read`);
  return `${parts.join(", ")}. Each one’s sheet shows what was left out of it.`;
}
