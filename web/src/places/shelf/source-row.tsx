import { RotateCw, Trash2 } from "lucide-react";

import type { Schemas } from "../../api/client";
import { useSetPicked, useSourceAction } from "../../api/queries";
import { durationText } from "../../domain/durations";
import type { TimeScale } from "../../domain/scales";
import { sizeText } from "../../domain/sizes";
import { Button } from "../../ui/button";
import { Checkbox } from "../../ui/checkbox";
import { Tip } from "../../ui/tip";
import { type Lane, lanesOf } from "./lanes";
import { LengthStrip } from "./length-strip";

type Source = Schemas["Source"];

interface Props {
  source: Source;
  scale: TimeScale;
  picked: ReadonlySet<number>;
  openTitle: number | null;
  onOpen: (titleId: number) => void;
}

function about(source: Source): string {
  const form = { folder: "folder", image: "image", file: "file" }[source.form] ?? "";
  const kind = { dvd: "DVD ", bluray: "Blu-ray ", files: "" }[source.kind] ?? "";
  const what = `${kind}${form}`;
  const parts = [what.charAt(0).toUpperCase() + what.slice(1)];
  if (source.size_bytes) parts.push(sizeText(source.size_bytes));
  if (source.titles.length > 1) parts.push(`${source.titles.length} titles`);
  return parts.filter(Boolean).join(" · ");
}

export function SourceRow({ source, scale, picked, openTitle, onOpen }: Props) {
  const act = useSourceAction();
  const lasting = source.state === "ready" || source.state === "failed" || source.state === "stopped";
  return (
    <section aria-label={source.name} className="group/row grid grid-cols-[200px_1fr] gap-x-4 border-b border-hairline py-3 max-md:grid-cols-1">
      <div className="relative min-w-0 max-md:pb-2">
        <h2 className="truncate text-[16px]" title={source.path}>
          {source.name}
        </h2>
        <p className="truncate text-[12px] text-quiet" title={source.label}>
          {source.kind === "files" ? source.path.split("/").at(-1) : source.label || source.path.split("/").at(-1)}
        </p>
        <p className="text-[12px] text-quiet">{about(source)}</p>
        {lasting && (
          <p className="absolute -top-0.5 right-0 flex bg-ground opacity-0 transition-opacity group-focus-within/row:opacity-100 group-hover/row:opacity-100">
            <Tip text="Read it again">
              <Button look="quiet" size="icon" className="size-6" aria-label={`Read ${source.name} again`} onClick={() => act.mutate({ id: source.id, verb: "read-again" })}>
                <RotateCw size={13} />
              </Button>
            </Tip>
            <Tip text="Take it off the Shelf; its files stay where they are">
              <Button look="quiet" size="icon" className="size-6" aria-label={`Remove ${source.name}`} onClick={() => act.mutate({ id: source.id, verb: "remove" })}>
                <Trash2 size={13} />
              </Button>
            </Tip>
          </p>
        )}
      </div>
      <div className="min-w-0 space-y-1.5">
        <SourceState source={source} onVerb={(verb) => act.mutate({ id: source.id, verb })} />
        {source.state === "ready" &&
          lanesOf(source.titles, scale).map((lane) => (
            <LaneRow key={lane.key} lane={lane} scale={scale} picked={picked} openTitle={openTitle} onOpen={onOpen} />
          ))}
        {source.state === "ready" && source.titles.length > 1 && <Proposal titles={source.titles} />}
        {source.problems.map((problem) => (
          <p key={`${problem.code}${problem.title}`} className="pl-7 text-[13px] text-madder">
            {problem.message}
          </p>
        ))}
      </div>
    </section>
  );
}

/** What Rheon takes the disc for, and why. */
function Proposal({ titles }: { titles: Source["titles"] }) {
  const chosen = titles.filter((title) => title.role === "feature" || title.role === "episode");
  const first = chosen[0];
  if (!first) return <p className="pl-7 text-[12.5px] text-quiet">Nothing here stands out; pick what you want.</p>;
  const which = chosen.length === 1 ? `Title ${first.number}` : `Titles ${chosen.map((title) => title.number).join(", ")}`;
  const reason = chosen.length === 1 ? first.reason : first.reason.replace(/^one of (\d+) titles/, "$1 titles");
  return (
    <p className="pl-7 text-[12.5px] text-quiet">
      {which} {reason.startsWith("taken") ? reason : `picked: ${reason}`}
    </p>
  );
}

function LaneRow({ lane, scale, picked, openTitle, onOpen }: { lane: Lane } & Omit<Props, "source">) {
  const setPicked = useSetPicked();
  const able = lane.strips.filter(({ strip }) => !strip.fault).map(({ strip }) => strip.id);
  const all = able.length > 0 && able.every((id) => picked.has(id));
  const total = lane.strips.reduce((sum, { strip }) => sum + strip.duration_s, 0);
  const what = lane.strips.length === 1 ? `title ${lane.strips[0]?.strip.number}` : `${lane.strips.length} titles, ${durationText(total)}`;
  return (
    <div className="flex items-center gap-3">
      <Checkbox
        checked={all}
        disabled={!able.length}
        label={`Pick ${what}`}
        onChange={(next) => setPicked.mutate({ title_ids: able, picked: next })}
      />
      <div className={`relative flex-1 ${lane.large ? "h-[26px]" : "h-[20px]"}`}>
        {lane.strips.map(({ strip, start, width }) => (
          <LengthStrip
            key={strip.id}
            title={strip}
            start={start}
            width={width}
            scale={scale}
            large={lane.large}
            open={openTitle === strip.id}
            picked={picked.has(strip.id)}
            onOpen={() => onOpen(strip.id)}
            onPick={() => !strip.fault && setPicked.mutate({ title_ids: [strip.id], picked: !picked.has(strip.id) })}
          />
        ))}
      </div>
    </div>
  );
}

function SourceState({ source, onVerb }: { source: Source; onVerb: (verb: "stop" | "read-again" | "remove") => void }) {
  if (source.state === "waiting" || source.state === "reading") {
    const text =
      source.state === "waiting"
        ? "Waiting to be read …"
        : source.title_count
          ? `Reading title ${source.at_title} of ${source.title_count} …`
          : "Reading …";
    return (
      <div className="flex items-center gap-3 pl-7">
        <div className="reading flex h-[26px] min-w-0 flex-1 items-center rounded-[5px] px-2" role="status">
          <span className="rounded bg-ground/85 px-1.5 text-[12.5px]">{text}</span>
        </div>
        <Button size="small" onClick={() => onVerb("stop")}>
          Stop
        </Button>
      </div>
    );
  }
  if (source.state === "failed" || source.state === "stopped") {
    return (
      <div className="flex items-start gap-3 pl-7">
        <p className={`min-w-0 flex-1 ${source.state === "failed" ? "text-madder" : "text-quiet"}`} role={source.state === "failed" ? "alert" : undefined}>
          {source.state === "failed" ? source.error_message : "Reading was stopped before it was through."}
        </p>
        <Button size="small" onClick={() => onVerb("read-again")}>
          Read again
        </Button>
        <Button size="small" onClick={() => onVerb("remove")}>
          Remove
        </Button>
      </div>
    );
  }
  return null;
}
