import { ChevronLeft, ChevronRight, Pause, Play } from "lucide-react";
import { useEffect, useEffectEvent, useState } from "react";

import { under } from "../../api/base";
import { useNextScene } from "../../api/bench";
import type { Schemas } from "../../api/client";
import { durationText, exactText } from "../../domain/durations";
import { useDebounced } from "../../parts/debounced";
import { useScrubFrame } from "../../parts/scrub-frames";
import { Button } from "../../ui/button";
import { Tip } from "../../ui/tip";
import { DividedExcerpt } from "./divided-excerpt";
import { DividedFrame } from "./divided-frame";
import { onPicture, pinOf, type KeptRange } from "./kept";
import { byKey, KeptRanges } from "./kept-range";
import { KeptStrip } from "./kept-strip";

type Sheet = Schemas["Sheet"];

const REST_MS = 120;
const SHOWN_FIRST = 0.42;
const PIN_AFTER_MS = 450;

interface Props {
  sheet: Sheet;
  onPin: (key: string, value: string | null) => void;
}

/**
 * The picture before and after on the device's own screen, in its true proportions; the strip it is from, and what of it
 * is kept.
 */
export function SheetPicture({ sheet, onPin }: Props) {
  const [at, setAt] = useState(
    () => sheet.kept[0]?.from_s ?? onPicture(sheet.duration_s * SHOWN_FIRST, sheet),
  );
  const [playing, setPlaying] = useState<number | null>(null);
  const [failed, setFailed] = useState<number | null>(null);
  const [near, setNear] = useState(false);
  const [kept, setKept] = useKept(sheet, onPin);
  const move = (to: number) => {
    setPlaying(null);
    setAt(to);
  };
  const scenes = useScenes(sheet, at, move);
  const onKey = (key: string) => {
    if (key === " ") {
      setPlaying(playing === null ? at : null);
      return true;
    }
    if (sheet.strip && (key === "n" || key === "p")) {
      scenes.go(key === "p");
      return true;
    }
    const next = byKey(key, kept, at, sheet);
    if (next) setKept(next);
    return next !== null;
  };
  return (
    <div>
      <Shown
        sheet={sheet}
        at={at}
        near={near}
        playing={playing}
        onAt={setAt}
        onEnd={(to) => setPlaying(to < sheet.duration_s - 1 ? to : null)}
        onStop={() => setPlaying(null)}
        onFail={() => {
          setPlaying(null);
          setFailed(at);
        }}
      />
      <p className="mt-2 flex flex-wrap items-center justify-between gap-x-4 gap-y-1 text-[13px] text-quiet">
        <span className="flex items-center gap-2">
          <Button size="small" onClick={() => setPlaying(playing === null ? at : null)}>
            {playing === null ? <Play size={13} aria-hidden /> : <Pause size={13} aria-hidden />}
            {playing === null ? "Play" : "Stop"}
          </Button>
          {sheet.strip > 0 && <SceneButtons go={scenes.go} />}
          <span className="tabular-nums">
            {exactText(at)} of {durationText(sheet.duration_s)}
          </span>
          <span role="status">{failed === at ? "These seconds could not be made." : scenes.said}</span>
        </span>
        <span>
          {sheet.frame && `${sheet.frame.width} × ${sheet.frame.height} `}
          {sheet.screen &&
            `on the ${sheet.screen.width} × ${sheet.screen.height} screen of ${sheet.target_name}`}
        </span>
      </p>
      {sheet.treatment !== "cannot" && (
        <>
          <KeptStrip
            sheet={sheet}
            kept={kept}
            at={at}
            onAt={move}
            onKept={(next, follow) => {
              setKept(next);
              move(follow);
            }}
            onKey={onKey}
            onNear={setNear}
          />
          <KeptRanges sheet={sheet} kept={kept} at={at} onKept={setKept} />
        </>
      )}
    </div>
  );
}

/** Going to the next change of scene or the one before, and what is said of it meanwhile. */
function useScenes(sheet: Sheet, at: number, move: (to: number) => void) {
  const scene = useNextScene(sheet.title_id);
  const go = (before: boolean) => {
    if (scene.isPending) return;
    scene.mutate(
      { at_s: at, before },
      { onSuccess: (found) => found.at_s !== null && move(onPicture(found.at_s, sheet)) },
    );
  };
  // what was said of a moment is over when another one is shown
  const asked = scene.variables?.at_s === at;
  const none = asked && scene.data?.at_s === null ? "No other scene within a minute." : "";
  const ended = asked && scene.isError ? "Nothing could be read there." : none;
  return { go, said: scene.isPending ? "Looking for it…" : ended };
}

function SceneButtons({ go }: { go: (before: boolean) => void }) {
  return (
    <>
      <Tip text="Key p on the strip">
        <Button size="small" aria-label="Scene before" onClick={() => go(true)}>
          <ChevronLeft size={13} aria-hidden /> Scene
        </Button>
      </Tip>
      <Tip text="Key n on the strip">
        <Button size="small" aria-label="Next scene" onClick={() => go(false)}>
          Scene <ChevronRight size={13} aria-hidden />
        </Button>
      </Tip>
    </>
  );
}

/** What somebody works on: what was pinned when that began, and what has been asked for since. */
interface Draft {
  kept: KeptRange[];
  before: string | null;
  sent?: string | null;
}

/** What is kept as it is worked on; pinned when it has stayed the same for a moment. What is pinned elsewhere wins. */
function useKept(sheet: Sheet, onPin: Props["onPin"]): [KeptRange[], (kept: KeptRange[]) => void] {
  const stored = pinOf(sheet.kept, sheet.duration_s);
  const [draft, setDraft] = useState<Draft | null>(null);
  const own = draft && (stored === draft.before || stored === draft.sent) ? draft : null;
  const wanted = own ? pinOf(own.kept, sheet.duration_s) : stored;
  const pin = useEffectEvent(() => {
    setDraft((old) => old && { ...old, sent: wanted });
    onPin("range.keep", wanted);
  });
  useEffect(() => {
    if (wanted === stored) return;
    const timer = setTimeout(() => pin(), PIN_AFTER_MS);
    return () => clearTimeout(timer);
  }, [wanted, stored]);
  return [own ? own.kept : sheet.kept, (kept) => setDraft({ ...own, kept, before: stored })];
}

interface ShownProps {
  sheet: Sheet;
  at: number;
  near: boolean;
  playing: number | null;
  onAt: (at: number) => void;
  /** What is played is over; what follows begins there. */
  onEnd: (at: number) => void;
  onStop: () => void;
  onFail: () => void;
}

function Shown({ sheet, at, near, playing, onAt, onEnd, onStop, onFail }: ShownProps) {
  const still = useDebounced(at, REST_MS);
  const meanwhile = useScrubFrame(sheet, at / sheet.duration_s, near);
  const screen = sheet.screen ?? sheet.frame ?? { width: 16, height: 9 };
  const isMade = sheet.strip > 0 && (sheet.treatment === "convert" || sheet.treatment === "rewrap");
  const frames = (
    <DividedFrame
      sheet={sheet}
      at={still}
      screen={screen}
      moment={exactText(still)}
      meanwhile={meanwhile}
      moving={at !== still}
    />
  );
  const sound = sheet.sound_track === null ? "" : `&audio=${sheet.sound_track}`;
  return (
    <div className="flex justify-center rounded-card bg-deep p-4">
      {playing !== null && isMade ? (
        <DividedExcerpt
          key={playing}
          sheet={sheet}
          from={playing}
          screen={screen}
          still={frames}
          onAt={(to) => onAt(onPicture(to, sheet))}
          onEnd={onEnd}
          onFail={onFail}
        />
      ) : playing !== null ? (
        <video
          src={under(`/api/shelf/titles/${sheet.title_id}/snippet.mp4?from=${playing.toFixed(3)}${sound}`)}
          autoPlay
          className="h-[300px] max-w-full rounded-md bg-screen object-contain"
          style={{ aspectRatio: `${screen.width} / ${screen.height}` }}
          onTimeUpdate={(event) => onAt(onPicture(playing + event.currentTarget.currentTime, sheet))}
          onEnded={onStop}
          onError={onStop}
          aria-label={`Playing from ${exactText(playing)}`}
        />
      ) : sheet.strip ? (
        frames
      ) : (
        <span className="flex h-[120px] items-center px-8 text-center text-deep-ink">
          {sheet.treatment === "convert" || sheet.treatment === "rewrap"
            ? "Only the sound goes into this file."
            : "This title has no picture."}
        </span>
      )}
    </div>
  );
}
