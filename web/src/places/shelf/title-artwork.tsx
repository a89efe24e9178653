import { useEffect, useRef, useState } from "react";

import { coverUrl, useArtwork, useSetArtwork, type CoverWanted } from "../../api/artwork";
import type { Schemas } from "../../api/client";
import { momentText } from "../../domain/durations";
import { Button } from "../../ui/button";
import { Notice } from "../../ui/notice";
import { Segments } from "../../ui/segments";
import { Slide } from "../../ui/slide";
import { NotYet } from "../../ui/states";
import { Tip } from "../../ui/tip";
import { useBrought } from "./use-brought";

type Artwork = Schemas["Artwork"];
type Shape = CoverWanted["shape"];

const SHAPES = { poster: "2:3", wide: "16:9", square: "1:1" } as const;
const NAMES = ["poster", "wide", "square"] as const;
const ASPECTS = { "2:3": "aspect-2/3", "16:9": "aspect-video", "1:1": "aspect-square" };

interface Props {
  title: Schemas["Title"];
  /** The moment that is shown above. */
  at: number;
}

/** What a title's files are known by: proposed from its frames, taken at a moment, or brought. */
export function TitleArtwork({ title, at }: Props) {
  const artwork = useArtwork(title.id);
  return (
    <section aria-label="Artwork" className="mt-4">
      <h3 className="border-b border-hairline pb-1 text-[15px]">Artwork</h3>
      <NotYet query={artwork} what="the artwork" />
      {artwork.data && <Choice title={title} at={at} artwork={artwork.data} />}
    </section>
  );
}

function Choice({ title, at, artwork }: Props & { artwork: Artwork }) {
  const set = useSetArtwork(title.id);
  const chosen = artwork.cover;
  const [wished, setShape] = useState<Shape>(title.frames ? "16:9" : "1:1");
  const shape = chosen?.shape ?? wished;
  const choose = (wanted: Partial<CoverWanted>) => set.mutate({ cover: { shape, ...wanted } });
  const bring = useBrought((picture) => choose({ picture }));
  const reshape = (next: Shape) => {
    setShape(next);
    if (chosen) set.mutate({ cover: { ...chosen, shape: next } });
  };
  const error = set.error ?? bring.error;
  return (
    <div className="mt-2 grid gap-3" {...bring.dropping}>
      <div className="flex gap-3">
        <Shown title={title} artwork={artwork} shape={shape} />
        <div className="grid min-w-0 flex-1 content-start gap-2">
          <div>
            <Segments
              label="Shape"
              value={NAMES.find((name) => SHAPES[name] === shape) ?? null}
              onChange={(name) => reshape(SHAPES[name])}
              options={NAMES}
            />
          </div>
          {chosen && (
            <Part
              key={`${chosen.at_s} ${chosen.picture} ${chosen.own}`}
              chosen={chosen}
              onPart={(part) => set.mutate({ cover: { ...chosen, ...part } })}
            />
          )}
          <div className="flex flex-wrap gap-2">
            {title.frames > 0 && (
              <Button size="small" onClick={() => choose({ at_s: at })}>
                Frame at {momentText(at)}
              </Button>
            )}
            <Tip text="A JPEG, PNG or WebP; it can be dropped or pasted here too.">
              <Button size="small" onClick={bring.open}>
                Your own …
              </Button>
            </Tip>
            {artwork.own && !chosen?.own && (
              <Button size="small" onClick={() => choose({ own: true })}>
                The one it came with
              </Button>
            )}
            {chosen && (
              <Button size="small" onClick={() => set.mutate({ cover: null })}>
                {artwork.own ? "As it came" : "None"}
              </Button>
            )}
          </div>
          <ForOthers
            count={artwork.alike.length}
            given={set.isSuccess && set.variables.alike !== undefined}
            shared={chosen !== null && chosen.at_s === null && (chosen.own || chosen.picture !== null)}
            frames={title.frames > 0}
            onShare={() => chosen && set.mutate({ cover: chosen, alike: artwork.alike })}
            onBest={() => set.mutate({ cover: { shape }, alike: artwork.alike })}
          />
        </div>
      </div>
      <Frames title={title} artwork={artwork} shape={shape} onFrame={(at_s) => choose({ at_s })} />
      {bring.input}
      {error && <Notice look="fault">{error.message}</Notice>}
    </div>
  );
}

interface OthersProps {
  count: number;
  /** Whether what was done last was done for them too. */
  given: boolean;
  shared: boolean;
  frames: boolean;
  onShare: () => void;
  onBest: () => void;
}

/** What is done for the titles of its source in the same role, in one act. */
function ForOthers({ count, given, shared, frames, onShare, onBest }: OthersProps) {
  if (given)
    return (
      <p role="status" className="text-quiet">
        {shared
          ? `The other ${count} like it have it too.`
          : `Each of the ${count + 1} like it gets its own best frame.`}
      </p>
    );
  if (!count || !(shared || frames)) return null;
  return (
    <Button look="link" size="text" className="justify-self-start" onClick={shared ? onShare : onBest}>
      {shared
        ? `Give it to the other ${count} like it`
        : `Give each of the ${count + 1} like it its own best frame`}
    </Button>
  );
}

/** The picture as it goes into a file, or what happens without one. */
function Shown({ title, artwork, shape }: { title: Props["title"]; artwork: Artwork; shape: Shape }) {
  const cover = artwork.cover ?? (artwork.own ? { own: true, shape, across: 0.5, down: 0.5 } : null);
  const frame = `w-28 shrink-0 self-start overflow-hidden rounded-md border border-hairline ${ASPECTS[shape ?? "16:9"]}`;
  const best = artwork.cover && !cover?.own && !artwork.cover.picture && artwork.cover.at_s === null;
  const found = artwork.frames[0];
  if (!cover || (best && found === undefined))
    return (
      <p
        className={`${frame} flex items-center justify-center border-dashed p-2 text-center text-[12.5px] text-quiet`}
      >
        {best ? "the best frame, once it is found" : "none yet"}
      </p>
    );
  const seen = best ? { ...cover, at_s: found } : cover;
  return (
    <img
      src={coverUrl(title.id, seen)}
      alt="Artwork of its files"
      className={`${frame} bg-screen object-cover`}
    />
  );
}

interface PartProps {
  chosen: NonNullable<Artwork["cover"]>;
  onPart: (part: Partial<CoverWanted>) => void;
}

/** Which part of the picture stays in its shape. */
function Part({ chosen, onPart }: PartProps) {
  const [across, setAcross] = useState(chosen.across);
  const [down, setDown] = useState(chosen.down);
  const moved = across !== chosen.across || down !== chosen.down;
  const kept = useRef(onPart);
  useEffect(() => {
    kept.current = onPart;
  });
  useEffect(() => {
    if (!moved) return;
    const timer = setTimeout(() => kept.current({ across, down }), 350);
    return () => clearTimeout(timer);
  }, [across, down, moved]);
  const own = chosen.at_s === null;
  // of a frame nearly all stays in its own shape, and all of its height in the others
  if (!own && chosen.shape === "16:9") return null;
  return (
    <div className="grid grid-cols-[auto_1fr] items-center gap-x-3 text-[12.5px] text-quiet">
      Across{" "}
      <Slide label="Part of the picture, across" value={across} max={1} step={0.05} onChange={setAcross} />
      {own && (
        <>
          Down <Slide label="Part of the picture, down" value={down} max={1} step={0.05} onChange={setDown} />
        </>
      )}
    </div>
  );
}

interface FramesProps {
  title: Props["title"];
  artwork: Artwork;
  shape: Shape;
  onFrame: (at: number) => void;
}

function Frames({ title, artwork, shape, onFrame }: FramesProps) {
  if (!title.frames) return null;
  if (artwork.looking)
    return (
      <p role="status" className="text-quiet">
        Looking for frames that are light, sharp and without text …
      </p>
    );
  if (!artwork.frames.length)
    return (
      <p className="text-quiet">
        No frame of it is light, sharp and without text. Choose a moment above, or bring a picture.
      </p>
    );
  return (
    <div>
      <p className="mb-1 text-[12.5px] text-quiet">The best frames</p>
      <ul className={`grid gap-1.5 ${shape === "16:9" ? "grid-cols-3" : "grid-cols-6"}`}>
        {artwork.frames.map((at_s) => (
          <li key={at_s}>
            <button
              type="button"
              aria-label={`Take the frame at ${momentText(at_s)}`}
              aria-pressed={artwork.cover?.at_s === at_s}
              onClick={() => onFrame(at_s)}
              className="block w-full overflow-hidden rounded-[5px] border-2 border-transparent hover:border-quiet aria-pressed:border-marigold"
            >
              <img
                src={coverUrl(title.id, { at_s, shape, across: 0.5, down: 0.5 })}
                alt=""
                loading="lazy"
                className={`w-full object-cover ${ASPECTS[shape ?? "16:9"]}`}
              />
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
