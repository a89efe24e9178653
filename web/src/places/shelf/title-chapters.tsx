import { ListOrdered, Scissors } from "lucide-react";
import { useState } from "react";

import { under } from "../../api/base";
import { useSetChapters } from "../../api/chapters";
import type { Schemas } from "../../api/client";
import { useNameChapter } from "../../api/queries";
import { momentText } from "../../domain/durations";
import { Button } from "../../ui/button";
import { Notice } from "../../ui/notice";
import { ChapterNames } from "./chapter-names";
import { CutChapters } from "./cut-chapters";

type Title = Schemas["Title"];

/** Chapters, each with a frame and a name that can be changed; a long title can be cut by them. */
export function TitleChapters({ title, onAt }: { title: Title; onAt: (at: number) => void }) {
  const name = useNameChapter(title.id);
  const back = useSetChapters(title.id);
  const [cutting, setCutting] = useState(false);
  const [naming, setNaming] = useState(false);
  return (
    <section className="mt-4">
      <div className="flex flex-wrap items-end gap-x-2 gap-y-1 border-b border-hairline pb-1">
        <h3 className="flex-1 text-[15px]">Chapters</h3>
        {!title.fault && (
          <Button size="small" onClick={() => setNaming(true)}>
            <ListOrdered size={13} /> {title.chapters.length ? "Name them …" : "Make some …"}
          </Button>
        )}
        {title.chapters.length > 1 && title.part_of === null && !title.parts.length && !title.fault && (
          <Button size="small" onClick={() => setCutting(true)}>
            <Scissors size={13} /> Cut into titles
          </Button>
        )}
      </div>
      {!title.chapters.length && <p className="py-1.5 text-quiet">This title has no chapters.</p>}
      {title.chapters_by_hand && (
        <p className="flex items-baseline gap-2 py-1.5 text-quiet">
          Changed by hand.
          <Button look="link" size="text" onClick={() => back.mutate({ chapters: null, alike: [] })}>
            Use those that were read
          </Button>
        </p>
      )}
      <ol>
        {title.chapters.map((chapter) => (
          <li key={chapter.number} className="flex items-center gap-3 border-b border-hairline py-1">
            <button
              type="button"
              onClick={() => onAt(chapter.start_s + 1)}
              aria-label={`Show chapter ${chapter.number}`}
              className="w-14 shrink-0 overflow-hidden rounded-[4px] bg-screen"
            >
              {title.strip > 0 && (
                <img
                  src={under(
                    `/api/shelf/titles/${title.id}/moments/${Math.round((chapter.start_s + 1) * 1000)}.jpg`,
                  )}
                  alt=""
                  loading="lazy"
                  className="aspect-video w-full object-cover"
                  onError={(event) => (event.currentTarget.style.visibility = "hidden")}
                />
              )}
            </button>
            <input
              key={chapter.name ?? ""}
              defaultValue={chapter.name ?? ""}
              placeholder={`Chapter ${chapter.number}`}
              aria-label={`Name of chapter ${chapter.number}`}
              onBlur={(event) =>
                event.target.value !== (chapter.name ?? "") &&
                name.mutate({ number: chapter.number, name: event.target.value })
              }
              onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
              className="min-w-0 flex-1 rounded border border-transparent bg-transparent px-1.5 py-0.5 placeholder:text-ink hover:border-hairline focus:border-hairline"
            />
            <span className="text-quiet">{momentText(chapter.start_s)}</span>
          </li>
        ))}
      </ol>
      {name.isError && <Notice look="fault">{name.error.message}</Notice>}
      {back.isError && <Notice look="fault">{back.error.message}</Notice>}
      {naming && <ChapterNames title={title} onClose={() => setNaming(false)} />}
      {cutting && <CutChapters title={title} onClose={() => setCutting(false)} />}
    </section>
  );
}
