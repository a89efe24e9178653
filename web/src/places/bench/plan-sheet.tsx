import { Link, useNavigate, useParams, useSearchParams } from "react-router";

import { Refused, type Schemas } from "../../api/client";
import { useChangeSheet, useSheet, useTakeBackRefused } from "../../api/bench";
import { useAddJobs, useAddSample, usePlanAnew } from "../../api/worklist";
import { rangeText } from "../../domain/bounds";
import { spanText } from "../../domain/durations";
import { sizeText } from "../../domain/sizes";
import { useDebounced } from "../../parts/debounced";
import { Button } from "../../ui/button";
import { Notice } from "../../ui/notice";
import { Failed, Loading } from "../../ui/states";
import { Tip } from "../../ui/tip";
import { DecisionList } from "./decision-list";
import { SheetMenu } from "./sheet-menu";
import { Breaches, Missing, Changed } from "./sheet-notes";
import { SheetPicture } from "./sheet-picture";
import { TradeOff } from "./trade-off";
import { useFrame } from "./use-frame";
import { useKept } from "./use-kept";

type Sheet = Schemas["Sheet"];

export function PlanSheet() {
  const { titleId, targetId } = useParams();
  const sheet = useSheet(Number(titleId), Number(targetId));
  const takeBack = useTakeBackRefused(Number(titleId), Number(targetId));
  if (sheet.isPending || takeBack.isPending) return <Loading what="the plan" />;
  if (sheet.isError) {
    const isRefusedPin = sheet.error instanceof Refused && sheet.error.code === "bad_pin";
    return (
      <div>
        <div className="border-b border-hairline px-6 py-3 max-md:px-3">
          <BackLink />
        </div>
        <Failed
          error={takeBack.error ?? sheet.error}
          onRetry={() => (isRefusedPin ? takeBack.mutate() : void sheet.refetch())}
        >
          {isRefusedPin ? "Take it back" : undefined}
        </Failed>
      </div>
    );
  }
  return <Opened key={`${titleId}-${targetId}`} sheet={sheet.data} />;
}

function Opened({ sheet }: { sheet: Sheet }) {
  const change = useChangeSheet(sheet.title_id, sheet.target_id);
  const pin = (key: string, value: string | null) => change.mutate({ pins: { [key]: value } });
  const frame = useFrame(sheet, pin);
  const kept = useKept(sheet, pin);
  // what is shown is what is made: nothing is converted before it is pinned
  const busy = change.isPending || frame.isUnsaid || kept.isUnsaid;
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <SheetHead sheet={sheet} busy={busy} />
      <div className="grid flex-1 grid-cols-[minmax(0,1fr)_minmax(440px,44%)] max-lg:grid-cols-1">
        <div className="min-w-0 px-6 py-4 max-md:px-3">
          <SheetPicture sheet={sheet} frame={frame} kept={kept} onPin={pin} />
          {sheet.steps.length > 0 && (
            <TradeOff sheet={sheet} busy={busy} onChange={(wanted) => change.mutate(wanted)} />
          )}
        </div>
        <div
          className="border-l border-hairline bg-raised px-5 py-4 max-lg:border-t max-lg:border-l-0"
          aria-busy={busy}
        >
          {change.isError && (
            <div className="mb-3">
              <Notice look="fault">{change.error.message}</Notice>
            </div>
          )}
          <Missing sheet={sheet} />
          <Breaches sheet={sheet} />
          <Changed changed={change.data?.changed ?? []} />
          {sheet.decisions.length > 0 ? (
            <DecisionList sheet={sheet} onPin={pin} />
          ) : (
            <NothingToMake sheet={sheet} />
          )}
          {sheet.pins.length > 0 && (
            <div className="mt-4">
              <Notice look="reason">
                <strong>
                  {sheet.pins.length} {sheet.pins.length === 1 ? "pin" : "pins"}.
                </strong>{" "}
                The rest was worked out around {sheet.pins.length === 1 ? "it" : "them"}.{" "}
                <Button
                  look="link"
                  size="text"
                  onClick={() =>
                    change.mutate({ pins: Object.fromEntries(sheet.pins.map((key) => [key, null])) })
                  }
                >
                  Let Rheon choose again
                </Button>
              </Notice>
            </div>
          )}
        </div>
      </div>
    </div>
  );
}

/** Who waits longer for a plan than that is told so. */
const NOTICED_MS = 400;

function SheetHead({ sheet, busy }: { sheet: Sheet; busy: boolean }) {
  const { estimate } = sheet;
  const waiting = useDebounced(busy, NOTICED_MS) && busy;
  const job = useJobToChange();
  return (
    <div className="flex flex-wrap items-center gap-x-6 gap-y-3 border-b border-hairline px-6 py-3 max-md:px-3">
      <div className="max-w-[340px] min-w-[220px]">
        <BackLink />
        <h1 className="truncate text-[21px] leading-tight" title={sheet.title_name}>
          {sheet.title_name}
        </h1>
        <p className="text-[13px] text-quiet">for {sheet.target_name}</p>
      </div>
      {estimate && (
        <>
          <Figure
            large={sizeText(estimate.size_bytes)}
            small={`${rangeText(estimate.size_low_bytes, estimate.size_high_bytes, sizeText)}, ${roomText(sheet)}`}
          />
          <Figure
            large={spanText(estimate.time_s)}
            small={`to make, ${rangeText(estimate.time_low_s, estimate.time_high_s, spanText)}`}
          />
        </>
      )}
      <Figure
        large={{ plays: "Plays", rewrap: "Re-wrap", convert: "Convert", cannot: "Can’t" }[sheet.treatment]}
        small={waiting ? "Working it out…" : sheet.reason.charAt(0).toUpperCase() + sheet.reason.slice(1)}
      />
      <div className="ml-auto flex flex-wrap items-center justify-end gap-3">
        <SheetMenu sheet={sheet} />
        {job ? <UseForJob job={job} busy={busy} /> : <ConvertButton sheet={sheet} busy={busy} />}
      </div>
    </div>
  );
}

function BackLink() {
  const job = useJobToChange();
  return (
    <Link to={job ? "/worklist" : "/bench"} className="text-[12px] text-quiet hover:text-ink">
      {job ? "← Worklist" : "← Bench"}
    </Link>
  );
}

/** Whether it fits where it goes, and else what the estimate rests on. */
function roomText(sheet: Sheet): string {
  if (sheet.free_bytes !== null && sheet.estimate) {
    return sheet.estimate.size_bytes > sheet.free_bytes
      ? `more than the ${sizeText(sheet.free_bytes)} free`
      : `${sizeText(sheet.free_bytes)} free`;
  }
  if (sheet.estimate?.from_seconds) return "from seconds that were made";
  return sheet.sampled ? "from samples" : "a first guess";
}

function Figure({ large, small }: { large: string; small: string }) {
  return (
    <div className="max-w-[230px] border-l border-hairline pl-4">
      <p className="font-heading text-[19px] leading-tight font-semibold">{large}</p>
      <p className="text-[12px] leading-snug text-quiet">{small}</p>
    </div>
  );
}

/** The job whose plan is changed here, where the Worklist has led here for that. */
const useJobToChange = () => Number(useSearchParams()[0].get("job")) || null;

function UseForJob({ job, busy }: { job: number; busy: boolean }) {
  const navigate = useNavigate();
  const plan = usePlanAnew(() => void navigate("/worklist"));
  return (
    <div className="flex flex-wrap items-center justify-end gap-3">
      {plan.isError && (
        <span className="text-madder" role="alert">
          {plan.error.message}
        </span>
      )}
      <Tip text="The job on the Worklist keeps the plan that it has until you use this one. Its place in the order stays.">
        <Button look="primary" onClick={() => plan.mutate(job)} disabled={plan.isPending || busy}>
          Use this plan for the job
        </Button>
      </Tip>
    </div>
  );
}

function ConvertButton({ sheet, busy }: { sheet: Sheet; busy: boolean }) {
  const navigate = useNavigate();
  const onAdded = () => void navigate("/worklist");
  const add = useAddJobs(onAdded);
  const sample = useAddSample(onAdded);
  if (!sheet.estimate) return null;
  const cell = { title_id: sheet.title_id, target_id: sheet.target_id };
  const failed = [add, sample].find((change) => change.isError)?.error;
  return (
    <div className="flex items-center gap-3">
      {failed && (
        <span className="text-madder" role="alert">
          {failed.message}
        </span>
      )}
      {sheet.has_minute && (
        <Tip text="The minute that asks most of this plan, made just as the whole file will be, to see on the device whether it plays and looks right.">
          <Button onClick={() => sample.mutate(cell)} disabled={sample.isPending || busy}>
            A minute to try
          </Button>
        </Tip>
      )}
      <Button look="primary" onClick={() => add.mutate([cell])} disabled={add.isPending || busy}>
        {sheet.treatment === "rewrap" ? "Re-wrap" : "Convert"}
      </Button>
    </div>
  );
}

function NothingToMake({ sheet }: { sheet: Sheet }) {
  return (
    <>
      <Notice look="reason">
        {sheet.treatment === "plays"
          ? `${sheet.target_name} plays this file as it is, so it is best left alone. Change ${sheet.framing ? "its frame or " : ""}what is kept of it, or give it tags, chapters or artwork, and a file is made that has them.`
          : `Nothing can be made for ${sheet.target_name}: ${sheet.reason}.`}
      </Notice>
      {sheet.rules.length > 0 && (
        <ul className="mt-4">
          {sheet.rules.map((rule) => (
            <li key={rule.rule} className="flex gap-3 border-b border-hairline py-1.5">
              <span className="w-32 text-quiet">{rule.rule}</span>
              <span>{rule.measured}</span>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
