import type { Schemas } from "../../api/client";
import { spanText } from "../../domain/durations";
import { curvePoints } from "../../domain/scales";
import { sizeText } from "../../domain/sizes";
import { Segments } from "../../ui/segments";
import { BALANCES } from "../../domain/balances";

type Sheet = Schemas["Sheet"];
type Balance = Schemas["Balance"];

const BOX = { width: 300, height: 96 };

interface Props {
  sheet: Sheet;
  busy: boolean;
  onChoose: (balance: Balance) => void;
}

/** Size across, fidelity up, one point for each balance; beside it what a step costs or saves. */
export function TradeOff({ sheet, busy, onChoose }: Props) {
  const steps = sheet.steps.filter((step) => step.estimate !== null);
  const sizes = steps.map((step) => step.estimate?.size_bytes ?? 0);
  const { points, limitX } = curvePoints(sizes, sheet.limit_bytes, BOX);
  const line = points.map((point, index) => `${index ? "L" : "M"}${point.x} ${point.y}`).join("");
  return (
    <section aria-label="Balance" className="mt-4" aria-busy={busy}>
      <div className="mb-3 flex flex-wrap items-center gap-3">
        <h2 className="text-[15px]">Balance</h2>
        <Segments label="Balance" value={sheet.balance} options={BALANCES} onChange={onChoose} />
        {!sheet.own_balance && <span className="text-[12.5px] text-quiet">as on the whole Bench</span>}
      </div>
      <div className="flex flex-wrap items-start gap-6">
        <svg viewBox={`-18 -12 ${BOX.width + 60} ${BOX.height + 34}`} className="w-[340px] max-w-full overflow-visible" role="img" aria-label="Size against fidelity at the five balances">
          <path d={`M0 -6V${BOX.height}H${BOX.width + 30}`} className="fill-none stroke-hairline" />
          <text x={0} y={BOX.height + 18} className="fill-quiet text-[11px]">size</text>
          <text transform={`translate(-8 ${BOX.height}) rotate(-90)`} className="fill-quiet text-[11px]">fidelity</text>
          {limitX !== null && (
            <g>
              <path d={`M${limitX} -6V${BOX.height}`} className="stroke-madder" strokeDasharray="4 3" />
              <text x={limitX} y={BOX.height + 18} textAnchor="middle" className="fill-madder text-[11px]">{sizeText(sheet.limit_bytes ?? 0)} a file</text>
            </g>
          )}
          <path d={line} className="fill-none stroke-river" strokeWidth={2} />
          {points.map((point, index) => {
            const balance = steps[index]?.balance;
            const on = balance === sheet.balance;
            return (
              <g key={balance} onClick={() => balance && onChoose(balance)} className="cursor-pointer">
                <circle cx={point.x} cy={point.y} r={12} className="fill-transparent" />
                <circle cx={point.x} cy={point.y} r={on ? 6 : 4.5} className={on ? "fill-marigold" : "fill-ground stroke-river"} strokeWidth={2} />
                <text x={point.x + 8} y={point.y + 14} className={on ? "fill-ink text-[11px] font-semibold" : "fill-quiet text-[11px]"}>{balance}</text>
              </g>
            );
          })}
        </svg>
        <Consequences sheet={sheet} />
      </div>
    </section>
  );
}

function Consequences({ sheet }: { sheet: Sheet }) {
  return (
    <table className="min-w-[210px] flex-1 text-[13px]">
      <caption className="sr-only">What each balance comes to</caption>
      <tbody>
        {sheet.steps.map(({ balance, estimate }) => (
          <tr key={balance} className={balance === sheet.balance ? "bg-sand font-semibold" : "text-quiet"}>
            <th scope="row" className="rounded-l px-2 py-1 text-left font-[inherit]">{balance}</th>
            <td className="px-2 py-1 text-right">{estimate ? sizeText(estimate.size_bytes) : "—"}</td>
            <td className="rounded-r px-2 py-1 text-right">{estimate ? spanText(estimate.time_s) : "—"}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
