import type { Schemas } from "../../api/client";
import { clockText, spanText } from "../../domain/durations";

const MOST_DRAWN = 60;

/** What is still to be made, drawn on the time ahead from `now` (ms), and when all of it will be done. */
export function TimeAhead({ worklist, now }: { worklist: Schemas["Worklist"]; now: number }) {
  const { total } = worklist;
  const ahead = worklist.jobs.filter(({ state }) => state === "running" || state === "waiting");
  const end = Math.max(1, total.left_high_s) * 1.25;
  const at = (seconds: number) => `${(100 * seconds) / end}%`;
  const drawn: { job: Schemas["Job"]; start: number }[] = [];
  for (let index = 0, start = 0; index < Math.min(ahead.length, MOST_DRAWN); index++) {
    const job = ahead[index];
    if (!job) break;
    drawn.push({ job, start });
    start += job.left_s ?? 0;
  }
  const last = drawn.at(-1);
  const rest = ahead.length > drawn.length && last ? last.start + (last.job.left_s ?? 0) : null;
  const clock = (seconds: number) => clockText(new Date(now + seconds * 1000));
  return (
    <section aria-label="Time ahead" className="mb-2">
      <p className="flex justify-between text-[12.5px] text-quiet">
        <span>Now {clock(0)}</span>
        <span>
          <strong className="text-ink">All done about {clock(total.left_s)}</strong>, between{" "}
          {clock(total.left_low_s)} and {clock(total.left_high_s)} · {spanText(total.left_s)} left,{" "}
          {Math.floor(total.fraction * 100)} % of all
        </span>
      </p>
      <div className="relative mt-1 h-[26px] border-b border-hairline" aria-hidden>
        {drawn.map(({ job, start }, index) => (
          <span
            key={job.id}
            className={`absolute top-0 h-[22px] truncate rounded-[4px] border px-1.5 text-[12px] leading-5 ${index === 0 && job.state === "running" ? "border-river bg-river text-river-ink" : "border-mist-line bg-mist"}`}
            style={{ left: at(start), width: `calc(${at(job.left_s ?? 0)} - 2px)` }}
          >
            {/* the same title again is told apart by what it is made for */}
            {drawn[index - 1]?.job.title_name === job.title_name
              ? job.device_names.join(", ")
              : job.title_name}
          </span>
        ))}
        {rest !== null && (
          <span
            className="absolute top-0 h-[22px] truncate rounded-[4px] border border-mist-line bg-mist px-1.5 text-[12px] leading-5"
            style={{ left: at(rest), width: at(total.left_s - rest) }}
          >
            {ahead.length - drawn.length} more
          </span>
        )}
        <span
          className="absolute top-0 h-[22px] bg-marigold/20"
          style={{ left: at(total.left_low_s), width: at(total.left_high_s - total.left_low_s) }}
        />
        <span className="absolute top-0 h-[26px] w-0.5 bg-marigold" style={{ left: at(total.left_s) }} />
      </div>
    </section>
  );
}
