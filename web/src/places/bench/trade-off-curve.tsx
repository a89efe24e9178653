import type { Schemas } from "../../api/client";
import { fidelityScale, fidelityText } from "../../domain/fidelity";
import { sizeText } from "../../domain/sizes";

type Balance = Schemas["Balance"];

interface Props {
  known: Schemas["TradeOff"];
  chosen: Balance;
  at: (bytes: number) => number;
  bounds: { bytes: number; text: string }[];
  onChoose: (balance: Balance) => void;
}

/** Size across, what was measured up: a point for each balance, with a line down to its worst pictures. */
export function TradeOffCurve({ known, chosen, at, bounds, onChoose }: Props) {
  const byHand = known.by_hand && { ...known.by_hand, name: "by hand", x: at(known.by_hand.size_bytes) };
  const points = known.scores.map((score) => ({
    ...score,
    name: score.balance ?? "",
    x: at(score.size_bytes),
  }));
  const all = byHand ? [...points, byHand] : points;
  const smaller = known.smaller.map((one) => ({ ...one, x: at(one.size_bytes) }));
  const { up, marks } = fidelityScale([...all, ...smaller]);
  const isOn = (balance: Balance | null) => (byHand ? balance === null : balance === chosen);
  return (
    <figure className="mb-2" aria-label="Fidelity by size">
      <div className="relative ml-9 h-36 border-b border-l border-hairline">
        {marks.map((mark) => (
          <div
            key={mark}
            className="absolute inset-x-0 border-t border-hairline/60"
            style={{ bottom: `${up(mark)}%` }}
          >
            <span className="absolute -left-9 w-8 -translate-y-1/2 text-right text-[11.5px] text-quiet tabular-nums">
              {mark}
            </span>
          </div>
        ))}
        {bounds.map(({ bytes, text }) => (
          <div
            key={bytes}
            title={`${sizeText(bytes)} ${text}`}
            className="absolute inset-y-0 border-l border-dashed border-madder"
            style={{ left: `${at(bytes)}%` }}
          />
        ))}
        <svg
          viewBox="0 0 100 100"
          preserveAspectRatio="none"
          aria-hidden
          className="absolute inset-0 size-full"
        >
          <polyline
            points={points.map(({ x, mean }) => `${x},${100 - up(mean)}`).join(" ")}
            className="fill-none stroke-river"
            strokeWidth={1.5}
            vectorEffect="non-scaling-stroke"
          />
          {all.map(({ name, x, mean, worst }) => (
            <path
              key={name}
              d={`M${x} ${100 - up(mean)}V${100 - up(worst)}`}
              className="stroke-river/45"
              strokeWidth={3}
              vectorEffect="non-scaling-stroke"
            />
          ))}
        </svg>
        <SmallerPoints points={smaller} unit={known.unit} up={up} />
        {all.map(({ name, balance, x, mean }) => (
          <span
            key={name}
            aria-hidden
            className={`pointer-events-none absolute -translate-x-1/2 text-[11.5px] ${balance === null ? "translate-y-full pt-2" : "pb-2"} ${isOn(balance) ? "font-semibold" : "text-quiet"}`}
            style={{ left: `${x}%`, bottom: `${up(mean)}%` }}
          >
            {name}
          </span>
        ))}
        {all.map(({ name, balance, size_bytes: bytes, x, mean, worst }) => (
          <button
            key={name}
            type="button"
            aria-pressed={isOn(balance)}
            aria-label={`${name}: ${sizeText(bytes)}, ${fidelityText(mean, known.unit)}, worst pictures ${fidelityText(worst, known.unit)}`}
            title={`${name}: ${sizeText(bytes)}, ${fidelityText(mean, known.unit)}`}
            onClick={() => balance && onChoose(balance)}
            className={`absolute size-3.5 -translate-x-1/2 translate-y-1/2 rounded-full border-2 border-raised ${isOn(balance) ? "bg-marigold" : "bg-river hover:bg-marigold"}`}
            style={{ left: `${x}%`, bottom: `${up(mean)}%` }}
          />
        ))}
      </div>
      <figcaption className="mt-1.5 text-[12px] text-quiet">
        {known.measure} {known.seen}. Points: the mean of {Math.round(known.seconds)} s from all over the
        title; lines down to the worst twentieth of its pictures.
        {smaller.length > 0 && " Open diamonds: fewer lines of picture, where they keep more at that size."}
      </figcaption>
    </figure>
  );
}

/** Fewer lines that keep more than the curve does at their size. */
function SmallerPoints({
  points,
  unit,
  up,
}: {
  points: (Schemas["SmallerPicture"] & { x: number })[];
  unit: string;
  up: (mean: number) => number;
}) {
  return points.map(({ balance, lines, x, mean, size_bytes: bytes }) => (
    <span
      key={balance}
      role="img"
      aria-label={`${lines} lines: ${sizeText(bytes)}, ${fidelityText(mean, unit)}`}
      title={`${lines} lines: ${sizeText(bytes)}, ${fidelityText(mean, unit)}`}
      className="absolute size-2.5 -translate-x-1/2 translate-y-1/2 rotate-45 border-2 border-river bg-raised"
      style={{ left: `${x}%`, bottom: `${up(mean)}%` }}
    />
  ));
}
