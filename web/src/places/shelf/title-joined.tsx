import { ArrowDownUp } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";

import type { Schemas } from "../../api/client";
import { useReorderJoin } from "../../api/queries";
import { durationText } from "../../domain/durations";
import { useUndo } from "../../parts/undo";
import { Button } from "../../ui/button";
import { JoinTitles } from "./join-titles";

/** What a join is made of: its parts can be opened, put in another order, and taken apart again. */
export function TitleJoined({ title }: { title: Schemas["Title"] }) {
  const navigate = useNavigate();
  const [ordering, setOrdering] = useState(false);
  const reorder = useReorderJoin(title.id);
  const { remove } = useUndo();
  if (!title.parts.length) return null;
  const there = title.parts.flatMap((part) =>
    part.id === null
      ? []
      : [{ id: part.id, name: part.name, source: part.source_name, duration_s: part.duration_s }],
  );
  return (
    <section aria-label="Parts" className="mt-4">
      <div className="flex items-end gap-2 border-b border-hairline pb-1">
        <h3 className="flex-1 text-[15px]">Parts</h3>
        <Button size="small" onClick={() => setOrdering(true)}>
          <ArrowDownUp size={13} /> Change the order
        </Button>
        <Button
          size="small"
          onClick={() => {
            remove({ kind: "join", ids: [title.id], text: `${title.name} is taken apart.` });
            void navigate("/shelf");
          }}
        >
          Take apart
        </Button>
      </div>
      <ol>
        {title.parts.map((part, place) => (
          <li key={place} className="flex items-baseline gap-3 border-b border-hairline py-1.5">
            <span className="w-14 shrink-0 text-right text-quiet">{durationText(part.at_s)}</span>
            <span className="min-w-0 flex-1 truncate" title={part.name}>
              {part.id === null ? (
                <span className="text-madder">{part.name}: not on the Shelf any more</span>
              ) : (
                <Link to={`/shelf/titles/${part.id}`} className="hover:underline">
                  {part.name}
                </Link>
              )}
            </span>
            <span className="text-quiet">{durationText(part.duration_s)}</span>
          </li>
        ))}
      </ol>
      <p className="pt-1.5 text-[13px] text-quiet">
        {title.parts_agree
          ? "Their streams agree: where a device takes them, they follow each other untouched."
          : "They can’t follow each other as they are, so they are converted to one form."}
      </p>
      {ordering && (
        <JoinTitles
          title="Change the order"
          parts={there}
          verb={(count) => `Join these ${count} titles`}
          isPending={reorder.isPending}
          error={reorder.error?.message}
          onJoin={(ids) => reorder.mutate(ids, { onSuccess: () => setOrdering(false) })}
          onClose={() => setOrdering(false)}
        />
      )}
    </section>
  );
}
