import { durationText } from "../../domain/durations";
import type { TimeScale } from "../../domain/scales";
import { Slide } from "../../ui/slide";

/** The marks of the time scale; where it is enlarged, a slider moves over the whole. */
export function ScaleRow({ scale, onFrom }: { scale: TimeScale; onFrom: (from: number) => void }) {
  const hidden = scale.end - scale.span;
  return (
    <div className="sticky top-[60px] z-10 grid grid-cols-[200px_1fr] gap-x-4 bg-ground px-6 text-[12px] text-quiet max-md:hidden">
      {hidden > 0.5 ? (
        <Slide
          label="From when on"
          value={scale.from}
          max={hidden}
          step={hidden / 100}
          onChange={onFrom}
          text={`from ${durationText(scale.from)}`}
          className="self-center"
        />
      ) : (
        <span />
      )}
      <div className="relative ml-7 h-6 overflow-hidden border-b border-hairline" aria-hidden>
        {scale.marks.map((mark) => (
          <span
            key={mark}
            className={`absolute bottom-1 whitespace-nowrap ${scale.at(mark) < 3 ? "" : "-translate-x-1/2"}`}
            style={{ left: `${scale.at(mark)}%` }}
          >
            {mark === 0 ? "0" : durationText(mark)}
          </span>
        ))}
      </div>
    </div>
  );
}
