import type { Schemas } from "../../api/client";
import { useChangeJobs } from "../../api/worklist";
import { rangeText } from "../../domain/bounds";
import { courseBytes } from "../../domain/course";
import { durationText, momentText, spanText } from "../../domain/durations";
import { sizeText } from "../../domain/sizes";
import { Frame } from "../../parts/frame";
import { useOpening } from "../../parts/opening";
import { Bar } from "../../ui/bar";
import { Button } from "../../ui/button";
import { Checkbox } from "../../ui/checkbox";

interface Props {
  job: Schemas["Job"];
  /** Whether it is an hour in which things are made, and the machine bears it. */
  mayWork: boolean;
  /** Whether nothing else can begin beside it. */
  alone: boolean;
}

export function RunningCard({ job, mayWork, alone }: Props) {
  const act = useChangeJobs();
  const paused = job.state === "paused";
  return (
    <article
      aria-label={job.title_name}
      className="mb-4 flex gap-5 rounded-card border border-hairline bg-raised p-4 max-md:flex-col"
    >
      <Frame
        titleId={job.title_id}
        number={2}
        className="aspect-video h-[104px] shrink-0 rounded-lg object-cover max-md:hidden"
      />
      <div className="min-w-0 flex-1">
        <div className="flex items-start gap-4">
          <div className="min-w-0 flex-1">
            <h2 className="truncate text-[19px]">
              {job.title_name}{" "}
              <span className="font-text text-[14px] font-normal text-quiet">
                {job.kind === "sample" && "a minute to try "}for {job.device_names.join(" and ")}
              </span>
            </h2>
            <p className="truncate text-[13px] text-quiet">{job.summary}</p>
            {job.note && <p className="text-[13px]">{job.note}</p>}
          </div>
          <Button
            aria-label={`${paused ? "Go on with" : "Pause"} ${job.title_name}`}
            onClick={() => act.mutate({ ids: [job.id], verb: paused ? "go_on" : "pause" })}
          >
            {paused ? "Go on" : "Pause"}
          </Button>
          <Button onClick={() => act.mutate({ ids: [job.id], verb: "stop" })}>Stop</Button>
        </div>
        <div className="my-2.5">
          <Bar fraction={job.fraction} still={paused || !mayWork} label={`${job.title_name}, made so far`} />
        </div>
        {job.kind !== "copy_disc" && <OpenWhenDone job={job} />}
        {job.stage === "looking" ? (
          <p className="text-quiet">{lookingText(job)}</p>
        ) : (
          <Course job={job} mayWork={mayWork} alone={alone} />
        )}
      </div>
    </article>
  );
}

function lookingText({ kind, state }: Schemas["Job"]): string {
  if (state === "paused") return "It stands still as soon as the picture has been looked at.";
  return kind === "sample"
    ? "The picture is looked at first, for the minute that asks most of the plan."
    : "The picture is looked at first; then the plan is settled and the file is made.";
}

/** How far it is: part, speed, size and what is left. */
function Course({ job, mayWork, alone }: Props) {
  const course = courseBytes(job.expected_bytes, job.written_bytes, job.fraction);
  const checking = job.stage === "checking";
  const paused = job.state === "paused";
  return (
    <p className="flex flex-wrap gap-x-7 gap-y-1 text-quiet">
      <span>
        <strong className="text-ink">{Math.floor(job.fraction * 100)} %</strong>{" "}
        {checking ? "made, now being checked" : wayText(job)}
      </span>
      {job.speed > 0 && !checking && !paused && mayWork && (
        <span>
          <strong className="text-ink">{job.speed.toFixed(1)} ×</strong> real time
        </span>
      )}
      <span>
        <strong className="text-ink">{sizeText(job.written_bytes)}</strong> so far, on course for{" "}
        {sizeText(course)}
      </span>
      <span className="ml-auto">
        {paused && (alone ? "Paused, and nothing else begins meanwhile · " : "Paused · ")}
        <strong className="text-ink">{job.left_s === null ? "…" : spanText(job.left_s)}</strong> left
        {job.left_low_s !== null && job.left_high_s !== null && !checking && (
          <>, {rangeText(job.left_low_s, job.left_high_s, spanText)}</>
        )}
      </span>
    </p>
  );
}

/** What is done of how much, in what this kind of job counts. */
function wayText(job: Schemas["Job"]): string {
  if (job.unit === "bytes") return `${sizeText(job.done)} of ${sizeText(job.whole)}, written and read again`;
  return `${momentText(job.done)} of ${durationText(job.whole)}`;
}

function OpenWhenDone({ job }: { job: Schemas["Job"] }) {
  const { on, set } = useOpening(job.id);
  return (
    <label className="float-right ml-4 inline-flex items-center gap-2 text-[13px]">
      <Checkbox label={`Open ${job.title_name} when it is done`} checked={on} onChange={set} />
      Open when done
    </label>
  );
}
