import type { ReactNode } from "react";

import type { Schemas } from "../../api/client";

const PURPOSES: Record<string, string> = {
  commentary: "commentary",
  description: "for the visually impaired",
};

/** Audio and subtitle tracks: language, purpose, and what was heard and counted. */
export function TitleTracks({ title }: { title: Schemas["Title"] }) {
  return (
    <>
      <Tracks heading="Sound" none="This title has no sound.">
        {title.audio.map((track) => (
          <Row
            key={track.index}
            left={track.language}
            notes={[PURPOSES[track.purpose], track.name === track.language ? null : track.name, track.heard]}
            right={track.form}
          />
        ))}
      </Tracks>
      <Tracks heading="Subtitles" none="This title has no subtitles.">
        {title.subtitles.map((track) => (
          <Row key={track.index} left={track.language} notes={[track.found]} right={track.form} />
        ))}
      </Tracks>
    </>
  );
}

function Tracks({ heading, none, children }: { heading: string; none: string; children: ReactNode[] }) {
  return (
    <section className="mt-4">
      <h3 className="border-b border-hairline pb-1 text-[15px]">{heading}</h3>
      {children.length ? <ul>{children}</ul> : <p className="py-1.5 text-quiet">{none}</p>}
    </section>
  );
}

function Row({ left, notes, right }: { left: string; notes: (string | null | undefined)[]; right: string }) {
  const said = notes.filter(Boolean).join(" · ");
  return (
    <li className="flex gap-3 border-b border-hairline py-1.5">
      <span className="min-w-0 flex-1 first-letter:uppercase">
        {left}
        {said && <span className="block text-[12.5px] text-quiet">{said}</span>}
      </span>
      <span className="text-right text-quiet">{right}</span>
    </li>
  );
}
