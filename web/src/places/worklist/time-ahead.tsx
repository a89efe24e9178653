import type { Schemas } from "../../api/client";
import { laidAhead } from "../../domain/ahead";
import { clockText, spanText } from "../../domain/durations";

const MOST_DRAWN = 60;
const LANE_PX = 26;

/** What is still to be made, drawn on the time ahead from `now` (ms), and when all of it will be done. */
export function TimeAhead({ worklist, now }: { worklist: Schemas["Worklist"]; now: number }) {
  const { total, machine } = worklist;
  const ahead = worklist.jobs.filter(({ state }) => state === "running" || state === "waiting");
  const end = Math.max(1, total.left_high_s) * 1.25;
  const at = (seconds: number) => `${(100 * seconds) / end}%`;
  const { laid, ends_s } = laidAhead(ahead.slice(0, MOST_DRAWN), Math.min(machine.at_once, ahead.length));
  const rest_s = ahead.length > laid.length ? Math.min(...ends_s) : null;
  const height = ends_s.length * LANE_PX;
  const clock = (seconds: number) => clockText(new Date(now + seconds * 1000));
  const [least, most] = [clock(total.left_low_s), clock(total.left_high_s)];
  return (
    <section aria-label="Time ahead" className="mb-2">
      <p className="flex justify-between text-[12.5px] text-quiet">
        <span>Now {clock(0)}</span>
        <span>
          <strong className="text-ink">All done about {clock(total.left_s)}</strong>
          {least !== most && `, between ${least} and ${most}`} · {spanText(total.left_s)} left,{" "}
          {Math.floor(total.fraction * 100)} % of all
        </span>
      </p>
      <div className="relative mt-1 border-b border-hairline" style={{ height }} aria-hidden>
        {laid.map(({ job, lane, start_s }, index) => (
          <span
            key={job.id}
            className={`absolute h-[22px] truncate rounded-[4px] border px-1.5 text-[12px] leading-5 ${job.state === "running" ? "border-river bg-river text-river-ink" : "border-mist-line bg-mist"}`}
            style={{ top: lane * LANE_PX, left: at(start_s), width: `calc(${at(job.left_s ?? 0)} - 2px)` }}
          >
            {/* the same title again is told apart by what it is made for */}
            {laid[index - 1]?.job.title_name === job.title_name
              ? job.device_names.join(", ")
              : job.title_name}
          </span>
        ))}
        {rest_s !== null && (
          <span
            className="absolute h-[22px] truncate rounded-[4px] border border-mist-line bg-mist px-1.5 text-[12px] leading-5"
            style={{
              top: ends_s.indexOf(rest_s) * LANE_PX,
              left: at(rest_s),
              width: at(total.left_s - rest_s),
            }}
          >
            {ahead.length - laid.length} more
          </span>
        )}
        <span
          className="absolute top-0 bg-marigold/20"
          style={{
            height: height - 4,
            left: at(total.left_low_s),
            width: at(total.left_high_s - total.left_low_s),
          }}
        />
        <span className="absolute top-0 w-0.5 bg-marigold" style={{ height, left: at(total.left_s) }} />
      </div>
    </section>
  );
}
