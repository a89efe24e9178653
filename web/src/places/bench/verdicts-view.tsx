import { Link, useParams } from "react-router";

import { useVerdicts } from "../../api/bench";
import type { Schemas } from "../../api/client";
import { DeviceIcon } from "../../parts/device-icon";
import { RuleTable } from "../../parts/rule-table";
import { Button } from "../../ui/button";
import { Empty, Failed, Loading } from "../../ui/states";

type Entry = Schemas["DeviceVerdict"];

const WORDS: Record<Entry["verdict"], string> = {
  plays: "Plays as it is",
  rewrap: "Needs another container",
  convert: "Needs converting",
  cannot: "Can’t be made to play",
};
const ORDER: Entry["verdict"][] = ["plays", "rewrap", "convert", "cannot"];

/** Which of the household's devices play a title as it is, rule by rule. */
export function VerdictsView() {
  const { titleId } = useParams();
  const verdicts = useVerdicts(Number(titleId));
  if (verdicts.isPending) return <Loading what="the verdicts" />;
  if (verdicts.isError) return <Failed error={verdicts.error} onRetry={() => void verdicts.refetch()} />;
  const { devices, title_name } = verdicts.data;
  const sorted = [...devices].sort((a, b) => ORDER.indexOf(a.verdict) - ORDER.indexOf(b.verdict));
  const playing = devices.filter((entry) => entry.verdict === "plays").length;
  return (
    <div className="flex-1 px-6 pt-3 pb-8 max-md:px-3">
      <Link to="/bench" className="text-[12px] text-quiet hover:text-ink">
        ← Bench
      </Link>
      <h1 className="text-[26px] leading-tight">Which devices play {title_name}?</h1>
      <p className="mb-4 text-quiet">
        {playing} of {devices.length} play it as it is.
      </p>
      {!devices.length && (
        <Empty
          title="No devices yet"
          action={
            <Button look="primary" asChild>
              <Link to="/household">Go to the Household</Link>
            </Button>
          }
        >
          Say what you watch on, and every file gets a verdict for each of them.
        </Empty>
      )}
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(380px,1fr))] items-start gap-4 max-md:grid-cols-1">
        {sorted.map((entry) => (
          <Card key={entry.device_id} entry={entry} titleId={Number(titleId)} />
        ))}
      </ul>
    </div>
  );
}

function Card({ entry, titleId }: { entry: Entry; titleId: number }) {
  const broken = entry.rules.filter((rule) => !rule.ok);
  const kept = entry.rules.filter((rule) => rule.ok);
  return (
    <li className="rounded-card border border-hairline bg-raised p-4">
      <div className="flex items-center gap-2">
        <DeviceIcon kind={entry.kind} />
        <h2 className="min-w-0 flex-1 truncate text-[16px]" title={entry.name}>
          {entry.name}
        </h2>
        <span
          className={`font-semibold ${entry.verdict === "plays" ? "text-moss" : entry.verdict === "cannot" ? "text-madder" : "text-marigold-text"}`}
        >
          {WORDS[entry.verdict]}
        </span>
      </div>
      <p className="mt-1 text-[13px] text-quiet first-letter:uppercase">{entry.reason}.</p>
      {broken.length > 0 && <RuleTable rules={broken} label={`Rules that ${entry.name} would break`} />}
      {kept.length > 0 && (
        <details className="mt-2">
          <summary className="cursor-pointer text-[13px] text-river">
            {broken.length
              ? `${kept.length} other ${kept.length === 1 ? "rule holds" : "rules hold"}`
              : `All ${kept.length} rules hold`}
          </summary>
          <RuleTable rules={kept} label={`Rules that hold for ${entry.name}`} />
        </details>
      )}
      <p className="mt-3 text-right">
        <Button look="link" size="text" asChild>
          <Link to={`/bench/${titleId}/${entry.target_id}`}>
            {entry.verdict === "plays" ? "Open its sheet" : "See what would be made"}
          </Link>
        </Button>
      </p>
    </li>
  );
}
