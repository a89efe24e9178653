import { X } from "lucide-react";
import { useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";

import type { Schemas } from "../../api/client";
import { useSetPicked, useTitle } from "../../api/queries";
import { durationText, momentText } from "../../domain/durations";
import { sizeText } from "../../domain/sizes";
import { Frame } from "../../parts/frame";
import { roleWord } from "../../parts/roles";
import { Button } from "../../ui/button";
import { Notice } from "../../ui/notice";
import { Failed, Loading } from "../../ui/states";

export function TitlePanel({ titleId, picked }: { titleId: number; picked: boolean }) {
  const title = useTitle(titleId);
  const navigate = useNavigate();
  useEffect(() => {
    const close = (event: KeyboardEvent) => {
      if (event.key === "Escape" && !event.defaultPrevented) void navigate("/shelf");
    };
    addEventListener("keydown", close);
    return () => removeEventListener("keydown", close);
  }, [navigate]);
  return (
    <aside
      aria-label="Title"
      className="sticky top-[60px] h-[calc(100dvh-60px)] w-[400px] shrink-0 overflow-y-auto border-l border-hairline bg-raised px-5 py-4 max-lg:fixed max-lg:inset-y-0 max-lg:right-0 max-lg:z-30 max-lg:mt-[60px] max-lg:shadow-2xl max-md:w-full"
    >
      {title.isPending && <Loading what="the title" />}
      {title.isError && <Failed error={title.error} onRetry={() => void title.refetch()} />}
      {title.data && <TitleFacts title={title.data} picked={picked} />}
      <Link to="/shelf" aria-label="Close" className="absolute top-4 right-4 rounded p-1 text-quiet hover:text-ink">
        <X size={18} />
      </Link>
    </aside>
  );
}

function TitleFacts({ title, picked }: { title: Schemas["Title"]; picked: boolean }) {
  const setPicked = useSetPicked();
  return (
    <>
      <h2 className="pr-8 text-xl">{title.name}</h2>
      <p className="mb-3 text-quiet">
        Title {title.number} · {roleWord(title.role)} · {durationText(title.duration_s)} · {sizeText(title.size_bytes)}
      </p>
      {title.frames > 0 && <Frames title={title} />}
      <div className="my-3">
        {title.fault ? (
          <Notice look="fault">This title can’t be converted; the Shelf says why.</Notice>
        ) : (
          <Notice look="reason">{title.reasons.map((reason) => reason.charAt(0).toUpperCase() + reason.slice(1)).join(". ")}.</Notice>
        )}
      </div>
      {!title.fault && (
        <Button size="small" look={picked ? "plain" : "primary"} onClick={() => setPicked.mutate({ title_ids: [title.id], picked: !picked })}>
          {picked ? "Put back" : "Pick this title"}
        </Button>
      )}
      <dl className="mt-4 grid grid-cols-[88px_1fr] gap-x-3 gap-y-1.5">
        {title.picture.map((fact) => (
          <div key={fact.topic} className="contents">
            <dt className="text-quiet">{fact.topic}</dt>
            <dd>{fact.text}</dd>
          </div>
        ))}
      </dl>
      <Tracks heading="Sound" none="This title has no sound.">
        {title.audio.map((track) => (
          <Row key={track.index} left={track.language} note={track.purpose === "commentary" || track.purpose === "description" ? track.purpose : ""} right={track.form} />
        ))}
      </Tracks>
      <Tracks heading="Subtitles" none="This title has no subtitles.">
        {title.subtitles.map((track) => (
          <Row key={track.index} left={track.language} note="" right={track.form} />
        ))}
      </Tracks>
      <Tracks heading="Chapters" none="This title has no chapters.">
        {title.chapters.map((chapter) => (
          <Row key={chapter.number} left={chapter.name ?? `Chapter ${chapter.number}`} note="" right={momentText(chapter.start_s)} />
        ))}
      </Tracks>
    </>
  );
}

function Frames({ title }: { title: Schemas["Title"] }) {
  const [shown, setShown] = useState(Math.floor(title.frames / 2));
  const at = (number: number) => momentText((title.duration_s * (number + 0.5)) / title.frames);
  return (
    <div>
      <Frame titleId={title.id} number={shown} alt={`The picture at ${at(shown)}`} className="aspect-video w-full rounded-lg object-contain" />
      <div className="mt-1.5 grid grid-cols-6 gap-1" role="group" aria-label="Six frames">
        {Array.from({ length: title.frames }, (_, number) => (
          <button
            key={number}
            type="button"
            onClick={() => setShown(number)}
            aria-pressed={shown === number}
            aria-label={`Show the picture at ${at(number)}`}
            className="overflow-hidden rounded-[4px] aria-pressed:ring-2 aria-pressed:ring-marigold"
          >
            <Frame titleId={title.id} number={number} className="aspect-video w-full object-cover" />
          </button>
        ))}
      </div>
    </div>
  );
}

function Tracks({ heading, none, children }: { heading: string; none: string; children: React.ReactNode[] }) {
  return (
    <section className="mt-4">
      <h3 className="border-b border-hairline pb-1 text-[15px]">{heading}</h3>
      {children.length ? <ul>{children}</ul> : <p className="py-1.5 text-quiet">{none}</p>}
    </section>
  );
}

function Row({ left, note, right }: { left: string; note: string; right: string }) {
  return (
    <li className="flex gap-3 border-b border-hairline py-1.5 first-letter:uppercase">
      <span className="min-w-0 flex-1 truncate">
        {left}
        {note && <span className="text-quiet"> · {note}</span>}
      </span>
      <span className="text-right text-quiet">{right}</span>
    </li>
  );
}
