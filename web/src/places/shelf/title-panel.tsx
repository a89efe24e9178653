import { X } from "lucide-react";
import { useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";

import type { Schemas } from "../../api/client";
import { useTitle } from "../../api/queries";
import { NotYet } from "../../ui/states";
import { TitleArtwork } from "./title-artwork";
import { TitleChapters } from "./title-chapters";
import { TitleHead } from "./title-head";
import { TitleJoined } from "./title-joined";
import { TitlePlayer } from "./title-player";
import { TitleTracks } from "./title-tracks";

export function TitlePanel({ titleId, picked }: { titleId: number; picked: boolean }) {
  const title = useTitle(titleId);
  const navigate = useNavigate();
  useEffect(() => {
    const close = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLElement && event.target.closest("input, [role=dialog]");
      if (event.key === "Escape" && !event.defaultPrevented && !typing) void navigate("/shelf");
    };
    addEventListener("keydown", close);
    return () => removeEventListener("keydown", close);
  }, [navigate]);
  return (
    <aside
      aria-label="Title"
      className="sticky top-[60px] h-[calc(100dvh-60px)] w-[440px] shrink-0 overflow-y-auto border-l border-hairline bg-raised px-5 py-4 max-lg:fixed max-lg:inset-y-0 max-lg:right-0 max-lg:z-30 max-lg:mt-[60px] max-lg:shadow-2xl max-md:w-full"
    >
      <NotYet query={title} what="the title" />
      {title.data && <TitleView title={title.data} picked={picked} />}
      <Link
        to="/shelf"
        aria-label="Close"
        className="absolute top-4 right-4 rounded p-1 text-quiet hover:text-ink"
      >
        <X size={18} />
      </Link>
    </aside>
  );
}

function TitleView({ title, picked }: { title: Schemas["Title"]; picked: boolean }) {
  const [at, setAt] = useState(title.duration_s / 2);
  return (
    <>
      <TitleHead title={title} picked={picked} />
      {title.frames > 0 || title.audio.length > 0 ? <TitlePlayer title={title} at={at} onAt={setAt} /> : null}
      <Facts title={title} />
      <TitleJoined title={title} />
      <TitleTracks title={title} />
      <TitleChapters title={title} onAt={setAt} />
      {!title.fault && <TitleArtwork title={title} at={at} />}
    </>
  );
}

function Facts({ title }: { title: Schemas["Title"] }) {
  const facts = [
    ...title.picture,
    ...title.tags.filter((tag) => tag.topic !== "Title" || tag.text !== title.name),
  ];
  return (
    <section className="mt-4">
      <dl className="grid grid-cols-[88px_1fr] gap-x-3 gap-y-1.5">
        {facts.map((fact) => (
          <div key={fact.topic} className="contents">
            <dt className="text-quiet">{fact.topic}</dt>
            <dd className="break-words">{fact.text}</dd>
          </div>
        ))}
      </dl>
      {title.looked_at === "waiting" && (
        <p className="mt-2 text-[13px] text-quiet">
          Rheon is still looking: borders, interlacing, loudness and forced lines follow.
        </p>
      )}
      {title.looked_at === "failed" && (
        <p className="mt-2 text-[13px] text-quiet">
          It could not be looked at more closely; what its tables say is here.
        </p>
      )}
    </section>
  );
}
