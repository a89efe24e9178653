import { Pause, Play, Square } from "lucide-react";
import { useState } from "react";

import { under } from "../../api/base";
import type { Schemas } from "../../api/client";
import { momentText } from "../../domain/durations";
import { useDebounced } from "../../parts/debounced";
import { Button } from "../../ui/button";
import { Select } from "../../ui/select";
import { FilmStrip } from "./film-strip";

type Title = Schemas["Title"];

const NONE = "none";

interface Props {
  title: Title;
  at: number;
  onAt: (at: number) => void;
}

function address(title: Title, at: number, audio: string, subtitle: string): string {
  const asked = new URLSearchParams({ from: at.toFixed(1) });
  if (audio !== NONE) asked.set("audio", audio);
  if (subtitle !== NONE) asked.set("subtitle", subtitle);
  return under(`/api/shelf/titles/${title.id}/snippet.mp4?${asked.toString()}`);
}

/**
 * A frame of the title, the film strip under it, and a few seconds played from there with the chosen
 * tracks.
 */
export function TitlePlayer({ title, at, onAt }: Props) {
  const [playing, setPlaying] = useState<number | null>(null);
  const [audio, setAudio] = useState(title.audio[0] ? "0" : NONE);
  const [subtitle, setSubtitle] = useState(NONE);
  const [failed, setFailed] = useState(false);
  const still = useDebounced(at, 150);
  const moved = (next: number) => {
    setPlaying(null);
    setFailed(false);
    onAt(next);
  };
  const goOn = (length: number) => {
    if (playing === null) return;
    const next = playing + Math.max(1, length);
    if (next >= title.duration_s - 0.5) return moved(0);
    setPlaying(next);
    onAt(next);
  };
  if (title.fault) return null;
  return (
    <section aria-label="Look inside" className="mt-3">
      <div className="relative aspect-video overflow-hidden rounded-lg bg-screen">
        {playing === null ? (
          <Still title={title} at={still} />
        ) : (
          <video
            key={`${playing}-${audio}-${subtitle}`}
            src={address(title, playing, audio, subtitle)}
            autoPlay
            controls
            className="size-full object-contain"
            onEnded={(event) => goOn(event.currentTarget.duration)}
            onError={() => {
              setPlaying(null);
              setFailed(true);
            }}
            aria-label={`Playing from ${momentText(playing)}`}
          />
        )}
      </div>
      {title.strip > 0 && <FilmStrip title={title} at={at} onAt={moved} />}
      <div className="mt-2 flex flex-wrap items-center gap-2">
        {playing === null ? (
          <Button size="small" onClick={() => setPlaying(at)}>
            <Play size={13} /> Play from {momentText(at)}
          </Button>
        ) : (
          <Button size="small" onClick={() => setPlaying(null)}>
            {title.strip > 0 ? <Pause size={13} /> : <Square size={13} />} Stop
          </Button>
        )}
        {title.audio.length > 1 && (
          <Select
            label="Sound while playing"
            value={audio}
            onChange={setAudio}
            choices={[
              ...title.audio.map((track) => ({
                value: String(track.index),
                text: `${track.language}, ${track.form}`,
              })),
              { value: NONE, text: "no sound" },
            ]}
          />
        )}
        {title.subtitles.length > 0 && (
          <Select
            label="Subtitles while playing"
            value={subtitle}
            onChange={setSubtitle}
            choices={[
              { value: NONE, text: "no subtitles" },
              ...title.subtitles.map((track) => ({
                value: String(track.index),
                text: `${track.language} subtitles`,
              })),
            ]}
          />
        )}
      </div>
      {failed && (
        <p role="alert" className="mt-1.5 text-[13px] text-madder">
          Nothing could be played from there. Try another moment; the data may be damaged here.
        </p>
      )}
    </section>
  );
}

/** The frame at a moment, with the black borders marked that were found. */
function Still({ title, at }: { title: Title; at: number }) {
  const [broken, setBroken] = useState<number | null>(null);
  if (!title.strip)
    return <p className="flex size-full items-center justify-center text-screen-ink">Sound only</p>;
  if (broken === at)
    return (
      <p className="flex size-full items-center justify-center text-screen-ink">
        No picture can be read at {momentText(at)}
      </p>
    );
  return (
    <div className="flex size-full items-center justify-center">
      <div className="relative max-h-full">
        <img
          src={under(`/api/shelf/titles/${title.id}/moments/${Math.round(at * 1000)}.jpg`)}
          alt={`The picture at ${momentText(at)}`}
          className="max-h-full max-w-full"
          onError={() => setBroken(at)}
        />
        {title.borders && (
          <span
            className="pointer-events-none absolute border border-dashed border-marigold"
            title="The picture inside its black borders"
            style={{
              top: `${100 * title.borders.top}%`,
              bottom: `${100 * title.borders.bottom}%`,
              left: `${100 * title.borders.left}%`,
              right: `${100 * title.borders.right}%`,
            }}
          />
        )}
      </div>
    </div>
  );
}
