import { useState } from "react";

import type { Schemas } from "../../api/client";
import { useCutByChapters } from "../../api/queries";
import { durationText, momentText } from "../../domain/durations";
import { evenStarts, rangesFrom } from "../../domain/ranges";
import { Button } from "../../ui/button";
import { Checkbox } from "../../ui/checkbox";
import { Dialog } from "../../ui/dialog";
import { Notice } from "../../ui/notice";
import { Select } from "../../ui/select";

type Title = Schemas["Title"];

/** Says where new titles begin in a long one; each range of chapters then stands on the Shelf by itself. */
export function CutChapters({ title, onClose }: { title: Title; onClose: () => void }) {
  const count = title.chapters.length;
  const [starts, setStarts] = useState<number[]>([1]);
  const cut = useCutByChapters(title.id);
  const ranges = rangesFrom(starts, count);
  const send = (wanted: typeof ranges) => cut.mutate(wanted, { onSuccess: onClose });
  const toggle = (number: number, on: boolean) =>
    setStarts((old) => (on ? [...old, number] : old.filter((start) => start !== number)));
  const lengthOf = (first: number, last: number) =>
    (title.chapters[last]?.start_s ?? title.duration_s) - (title.chapters[first - 1]?.start_s ?? 0);
  const sizes = Array.from({ length: Math.floor(count / 2) }, (_, index) => index + 1);
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title="Cut into titles"
      about="Mark the chapters at which a new title begins. Nothing on the disc changes."
      footer={
        <>
          <Button className="mr-auto" onClick={() => send([])}>
            Undo all cuts
          </Button>
          <Button onClick={onClose}>Cancel</Button>
          <Button look="primary" disabled={ranges.length < 2 || cut.isPending} onClick={() => send(ranges)}>
            {ranges.length < 2 ? "Mark where to cut" : `Make ${ranges.length} titles`}
          </Button>
        </>
      }
    >
      <p className="mb-3 flex items-center gap-2">
        Or begin one every
        <Select
          label="Chapters in each title"
          value=""
          placeholder="…"
          onChange={(size) => setStarts(evenStarts(Number(size), count))}
          choices={sizes.map((size) => ({
            value: String(size),
            text: size === 1 ? "chapter" : `${size} chapters`,
          }))}
        />
      </p>
      <ol className="border-t border-hairline">
        {title.chapters.map((chapter) => {
          const range = ranges.find(({ first }) => first === chapter.number);
          return (
            <li
              key={chapter.number}
              className={`flex items-center gap-3 border-b border-hairline py-1.5 ${range ? "bg-sunk" : ""}`}
            >
              <Checkbox
                checked={starts.includes(chapter.number)}
                label={`A title begins at chapter ${chapter.number}`}
                onChange={(on) => toggle(chapter.number, on)}
              />
              <span className="min-w-0 flex-1 truncate">{chapter.name ?? `Chapter ${chapter.number}`}</span>
              {range && (
                <span className="font-semibold">{durationText(lengthOf(range.first, range.last))}</span>
              )}
              <span className="w-14 text-right text-quiet">{momentText(chapter.start_s)}</span>
            </li>
          );
        })}
      </ol>
      {cut.isError && <Notice look="fault">{cut.error.message}</Notice>}
    </Dialog>
  );
}
