import { memo } from "react";

import type { Schemas } from "../../api/client";
import { durationText } from "../../domain/durations";
import type { TimeScale } from "../../domain/scales";
import { useBrief } from "../../parts/brief";
import { numberText } from "../../parts/roles";
import { Checkbox } from "../../ui/checkbox";
import type { Lane } from "./lanes";
import { LengthStrip } from "./length-strip";
import { SourceHead } from "./source-head";
import { SourceStateLine } from "./source-state";
import type { Block } from "./view";

type Source = Schemas["Source"];

export interface Marks {
  scale: TimeScale;
  picked: ReadonlySet<number>;
  openTitle: number | null;
  onOpen: (titleId: number) => void;
  onPick: (titleId: number, range: boolean) => void;
  onPickAll: (titleIds: number[], picked: boolean) => void;
}

interface Props {
  block: Block;
  marks: Marks;
  /** How high it is held to be. */
  px: number;
  /** It comes into view by scrolling. */
  passing: boolean;
}

/** A piece of the Shelf: a source with its first lanes, or further lanes of one with very many titles. */
export const SourceBlock = memo(
  function SourceBlock({ block, marks, px, passing }: Props) {
    const brief = useBrief(passing);
    return brief ? <BriefBlock block={block} px={px} /> : <WholeBlock block={block} marks={marks} />;
  },
  (old, now) => old.block === now.block && old.marks === now.marks,
);

const nameOf = ({ head, source }: Block) => (head ? source.name : `${source.name}, continued`);

/** What can be recognised in passing: the name, and how long its lanes are. */
function BriefBlock({ block, px }: { block: Block; px: number }) {
  return (
    <section
      aria-label={nameOf(block)}
      className="grid grid-cols-[200px_1fr] gap-x-4 pt-3 max-md:grid-cols-1"
      style={{ height: px }}
    >
      <h2 className="truncate text-[16px]">{block.head && block.source.name}</h2>
      <div className="space-y-1.5 overflow-clip pl-7">
        {block.lanes.map((lane) => (
          <div key={lane.key} className={`rounded-[5px] bg-mist ${lane.large ? "h-[26px]" : "h-[20px]"}`} />
        ))}
      </div>
    </section>
  );
}

function WholeBlock({ block, marks }: { block: Block; marks: Marks }) {
  const { source } = block;
  return (
    <section
      aria-label={nameOf(block)}
      className={`grid grid-cols-[200px_1fr] gap-x-4 max-md:grid-cols-1 ${block.head ? "pt-3" : "pt-1.5"} ${block.tail ? "border-b border-hairline pb-3" : ""}`}
    >
      {block.head ? <SourceHead source={source} /> : <span />}
      <div className="min-w-0 space-y-1.5">
        {block.head && <SourceStateLine source={source} />}
        {block.lanes.map((lane) => (
          <LaneRow key={lane.key} lane={lane} marks={marks} />
        ))}
        {block.tail && source.state === "ready" && source.titles.length > 1 && (
          <Proposal titles={source.titles} />
        )}
        {block.tail &&
          source.problems.map((problem, index) => (
            <p key={index} className="pl-7 text-[13px] text-madder">
              {problem.message}
            </p>
          ))}
      </div>
    </section>
  );
}

/** What Rheon takes the disc for, and why. */
function Proposal({ titles }: { titles: Source["titles"] }) {
  const read = titles.filter((title) => title.part_count === 0);
  const chosen = read.filter((title) => title.role === "feature" || title.role === "episode");
  const first = chosen[0];
  if (!first)
    return <p className="pl-7 text-[12.5px] text-quiet">Nothing here stands out; pick what you want.</p>;
  const numbers = chosen.slice(0, 12).map(numberText).join(", ") + (chosen.length > 12 ? " …" : "");
  const which = chosen.length === 1 ? `Title ${numbers}` : `Titles ${numbers}`;
  const told = titles.find((title) => title.number === first.part_of) ?? first;
  return (
    <p className="pl-7 text-[12.5px] text-quiet">
      {which} {chosen.length === 1 || told !== first ? told.taken : told.taken_together}
    </p>
  );
}

function LaneRow({ lane, marks }: { lane: Lane; marks: Marks }) {
  const { scale, picked, openTitle, onOpen, onPick, onPickAll } = marks;
  const able = lane.strips.filter(({ strip }) => !strip.fault).map(({ strip }) => strip.id);
  const all = able.length > 0 && able.every((id) => picked.has(id));
  const total = lane.strips.reduce((sum, { strip }) => sum + strip.duration_s, 0);
  const only = lane.strips.length === 1 ? lane.strips[0]?.strip : undefined;
  const what = only ? `title ${numberText(only)}` : `${lane.strips.length} titles, ${durationText(total)}`;
  return (
    <div className="flex items-center gap-3">
      <Checkbox
        checked={all}
        disabled={!able.length}
        label={`Pick ${what}`}
        onChange={(next) => onPickAll(able, next)}
      />
      <div className={`relative flex-1 overflow-x-clip ${lane.large ? "h-[26px]" : "h-[20px]"}`}>
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
            onPick={(range) => !strip.fault && onPick(strip.id, range)}
          />
        ))}
      </div>
    </div>
  );
}
