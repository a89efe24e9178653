import { useMeasureTradeOff, useTradeOff } from "../../api/trade-off";
import type { Schemas } from "../../api/client";
import { BALANCES } from "../../domain/balances";
import { rangeText } from "../../domain/bounds";
import { spanText } from "../../domain/durations";
import { fidelityText } from "../../domain/fidelity";
import { sizeScale } from "../../domain/scales";
import { sizeText } from "../../domain/sizes";
import { Button } from "../../ui/button";
import { Segments } from "../../ui/segments";
import { AskFor } from "./ask-for";
import { FewerLines } from "./fewer-lines";
import { TradeOffCurve } from "./trade-off-curve";

type Sheet = Schemas["Sheet"];
type Balance = Schemas["Balance"];

interface Props {
  sheet: Sheet;
  busy: boolean;
  onChange: (wanted: Schemas["SheetChange"]) => void;
}

/** What each balance comes to: the range within which its size should come out, how long it takes, what it keeps. */
export function TradeOff({ sheet, busy, onChange }: Props) {
  const onChoose = (balance: Balance) => onChange({ balance });
  const known = useTradeOff(sheet.title_id, sheet.target_id, sheet.settings_mark).data;
  const isByHand = sheet.pins.includes("picture.rate");
  const score = (balance: Balance) => known?.scores.find((one) => one.balance === balance);
  const bounds = [
    { bytes: sheet.limit_bytes, text: "a file at most" },
    { bytes: sheet.free_bytes, text: "free" },
  ].flatMap(({ bytes, text }) => (bytes === null ? [] : [{ bytes, text }]));
  const { at, near } = sizeScale(
    Math.max(
      0,
      ...sheet.steps.map(({ estimate }) => estimate?.size_high_bytes ?? 0),
      ...(known?.scores.map((one) => one.size_bytes) ?? []),
    ),
    bounds.map(({ bytes }) => bytes),
  );
  const fromSeconds = sheet.steps.every(({ estimate }) => estimate?.from_seconds);
  const shown = bounds.filter(({ bytes }) => near.includes(bytes));
  return (
    <section aria-label="Balance" className="mt-4" aria-busy={busy}>
      <div className="mb-2 flex flex-wrap items-center gap-3">
        <h2 className="text-[15px]">Balance</h2>
        <Segments label="Balance" value={sheet.balance} options={BALANCES} onChange={onChoose} />
        {!sheet.own_balance && <span className="text-[12.5px] text-quiet">as on the whole Bench</span>}
      </div>
      {known && known.scores.length > 0 && (
        <TradeOffCurve
          known={known}
          chosen={sheet.balance}
          at={at}
          bounds={shown}
          onChoose={(balance) =>
            onChange(isByHand ? { balance, pins: { "picture.rate": null } } : { balance })
          }
        />
      )}
      <table className="w-full text-[13px]">
        <caption className="sr-only">What each balance comes to</caption>
        <thead className="sr-only">
          <tr>
            <th>Balance</th>
            <th>Range of the size</th>
            <th>Size</th>
            <th>Fidelity</th>
            <th>Time to make</th>
          </tr>
        </thead>
        <tbody>
          {sheet.steps.map((step) => (
            <StepRow
              key={step.balance}
              step={step}
              on={step.balance === sheet.balance}
              at={at}
              bounds={shown.map(({ bytes }) => bytes)}
              fidelity={isByHand ? "" : fidelityOf(score(step.balance), known)}
              onChoose={onChoose}
            />
          ))}
        </tbody>
        <tfoot className="text-[12px] text-quiet">
          <tr>
            <td />
            <td className="px-2 pt-1">
              {[
                `bars: where the size should come out${fromSeconds ? ", by the seconds that were made" : ""}`,
                ...shown.map(({ bytes, text }) => `dashed: ${sizeText(bytes)} ${text}`),
              ].join(" · ")}
            </td>
            <td className="px-2 pt-1 text-right">size</td>
            <td className="px-2 pt-1 text-right">{known?.scores.length && !isByHand ? known.measure : ""}</td>
            <td className="px-2 pt-1 text-right">time</td>
          </tr>
        </tfoot>
      </table>
      <Measuring sheet={sheet} known={known} />
      <FewerLines
        known={known}
        chosen={isByHand ? null : sheet.balance}
        onUse={(pins) => onChange({ pins })}
      />
      <AskFor
        sheet={sheet}
        known={known}
        onSize={(megabytes) => onChange({ pins: { "picture.rate": `size:${megabytes}` } })}
      />
    </section>
  );
}

const fidelityOf = (score: Schemas["Score"] | undefined, known: Schemas["TradeOff"] | undefined) =>
  score ? fidelityText(score.mean, known?.unit ?? "") : known?.measuring ? "…" : "";

/** What is being measured. */
function stageText({ scores, by_hand, missing }: Schemas["TradeOff"], isByHand: boolean): string {
  const done = scores.length + (by_hand ? 1 : 0);
  if (scores.length < BALANCES.length)
    return `Seconds of each balance are made and held against the source: ${done} of ${done + missing} …`;
  if (isByHand && !by_hand) return "Seconds at the rate by hand are made and held against the source …";
  if (missing) return "Fewer lines at the same rate are made too, and held against the source …";
  return "More seconds from other places make the figures surer …";
}

/** Begins the measurement, and says how far it is. */
function Measuring({ sheet, known }: { sheet: Sheet; known: Schemas["TradeOff"] | undefined }) {
  const measure = useMeasureTradeOff(sheet.title_id, sheet.target_id, sheet.settings_mark);
  if (!known?.possible) return null;
  if (!known.missing && !known.more) return null;
  return (
    <p className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1 text-[13px] text-quiet" role="status">
      {known.measuring ? (
        <>
          {stageText(known, sheet.pins.includes("picture.rate"))}
          <Button look="link" size="small" onClick={() => measure.mutate(false)} disabled={measure.isPending}>
            Stop
          </Button>
        </>
      ) : (
        <>
          <Button size="small" onClick={() => measure.mutate(true)} disabled={measure.isPending}>
            {known.missing ? "Measure the fidelity" : "Measure more of it"}
          </Button>
          {measure.isError
            ? measure.error.message
            : known.failed
              ? "It could not be measured; try it again in a while."
              : known.missing
                ? "Seconds of this title are made at each balance and held against the source."
                : `So far ${known.seconds.toFixed(0)} s were held against the source; more of them make it surer.`}
        </>
      )}
    </p>
  );
}

interface StepProps {
  step: Schemas["Step"];
  on: boolean;
  at: (bytes: number) => number;
  bounds: number[];
  fidelity: string;
  onChoose: (balance: Balance) => void;
}

function StepRow({ step: { balance, estimate }, on, at, bounds, fidelity, onChoose }: StepProps) {
  return (
    <tr
      onClick={() => onChoose(balance)}
      className={`cursor-pointer ${on ? "bg-sand font-semibold" : "text-quiet hover:text-ink"}`}
    >
      <th scope="row" className="rounded-l px-2 py-1 text-left font-[inherit]">
        {balance}
      </th>
      <td className="w-full px-2">
        {estimate && (
          <div
            className="relative h-5"
            title={rangeText(estimate.size_low_bytes, estimate.size_high_bytes, sizeText)}
          >
            <div
              className={`absolute inset-y-1.5 rounded-sm ${on ? "bg-marigold/50" : "bg-river/35"}`}
              style={{
                left: `${at(estimate.size_low_bytes)}%`,
                width: `${at(estimate.size_high_bytes - estimate.size_low_bytes)}%`,
              }}
            />
            <div
              className={`absolute inset-y-1 w-[3px] rounded-sm ${on ? "bg-marigold" : "bg-river"}`}
              style={{ left: `${at(estimate.size_bytes)}%` }}
            />
            {bounds.map((bytes) => (
              <div
                key={bytes}
                className="absolute inset-y-0 border-l border-dashed border-madder"
                style={{ left: `${at(bytes)}%` }}
              />
            ))}
          </div>
        )}
      </td>
      <td className="px-2 py-1 text-right whitespace-nowrap">
        {estimate ? sizeText(estimate.size_bytes) : "—"}
      </td>
      <td className="px-2 py-1 text-right whitespace-nowrap tabular-nums">{fidelity}</td>
      <td className="rounded-r px-2 py-1 text-right whitespace-nowrap">
        {estimate ? spanText(estimate.time_s) : "—"}
      </td>
    </tr>
  );
}
