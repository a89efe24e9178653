import { Crop as CropIcon, Pause, Play } from "lucide-react";
import { type ReactNode, useState } from "react";

import type { Schemas } from "../../api/client";
import { durationText, exactText } from "../../domain/durations";
import { Button } from "../../ui/button";
import { Tip } from "../../ui/tip";
import { FrameControls } from "./frame-controls";
import { onPicture } from "./kept";
import { byKey, KeptRanges } from "./kept-range";
import { KeptStrip } from "./kept-strip";
import { PlayedTracks } from "./played-tracks";
import { SceneButtons, useScenes } from "./scenes";
import { ShownPicture } from "./shown-picture";
import type { Frame } from "./use-frame";
import type { Kept } from "./use-kept";
import { type Playing, usePlaying } from "./use-playing";

type Sheet = Schemas["Sheet"];

const SHOWN_FIRST = 0.42;

interface Props {
  sheet: Sheet;
  frame: Frame;
  kept: Kept;
  onPin: (key: string, value: string | null) => void;
}

/**
 * The picture before and after on the device's own screen, in its true proportions; the strip it is from, and what of it
 * is kept.
 */
export function SheetPicture({ sheet, frame, kept: { kept, setKept }, onPin }: Props) {
  const [at, setAt] = useState(
    () => sheet.kept[0]?.from_s ?? onPicture(sheet.duration_s * SHOWN_FIRST, sheet),
  );
  const playing = usePlaying(sheet, at);
  const [near, setNear] = useState(false);
  const move = (to: number) => {
    playing.stop();
    setAt(to);
  };
  const scenes = useScenes(sheet, at, move);
  const onKey = (key: string) => {
    if (key === " ") {
      playing.toggle();
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
      <ShownPicture sheet={sheet} frame={frame} at={at} near={near} playing={playing} onAt={setAt} />
      <PictureBar sheet={sheet} at={at} frame={frame} playing={playing} scenes={scenes}>
        {playing.failedAt === at ? "These seconds could not be made." : scenes.said}
      </PictureBar>
      {frame.isOpen && frame.framing && (
        <FrameControls
          sheet={sheet}
          framing={frame.framing}
          cut={frame.cut}
          guides={frame.guides}
          onGuides={frame.setGuides}
          onCut={frame.setCut}
          onPin={onPin}
          onAt={(to) => move(onPicture(to, sheet))}
        />
      )}
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
          {!frame.isOpen && <KeptRanges sheet={sheet} kept={kept} at={at} onKept={setKept} />}
        </>
      )}
    </div>
  );
}

interface BarProps {
  sheet: Sheet;
  at: number;
  frame: Frame;
  playing: Playing;
  scenes: { go: (before: boolean) => void };
  /** What is said of what was asked for last. */
  children: ReactNode;
}

/** What can be done with the picture, where it is, and how large it comes out. */
function PictureBar({ sheet, at, frame, playing, scenes, children }: BarProps) {
  const plays = playing.from !== null;
  return (
    <p className="mt-2 flex flex-wrap items-center justify-between gap-x-4 gap-y-1 text-[13px] text-quiet">
      <span className="flex flex-wrap items-center gap-2">
        <Button size="small" onClick={playing.toggle}>
          {plays ? <Pause size={13} aria-hidden /> : <Play size={13} aria-hidden />}
          {plays ? "Stop" : "Play"}
        </Button>
        {sheet.strip > 0 && <PlayedTracks sheet={sheet} playing={playing} />}
        {sheet.strip > 0 && <SceneButtons go={scenes.go} />}
        {frame.framing && (
          <Tip text="Cut borders away, mend the shape, turn the picture">
            <Button size="small" aria-pressed={frame.isOpen} onClick={() => frame.open(!frame.isOpen)}>
              <CropIcon size={13} aria-hidden /> {frame.isOpen ? "Frame is done" : "Frame"}
            </Button>
          </Tip>
        )}
        <span className="tabular-nums">
          {exactText(at)} of {durationText(sheet.duration_s)}
        </span>
        <span role="status">{children}</span>
      </span>
      <span>
        {sheet.frame && `${sheet.frame.width} × ${sheet.frame.height} `}
        {sheet.screen &&
          `on the ${sheet.screen.width} × ${sheet.screen.height} screen of ${sheet.target_name}`}
      </span>
    </p>
  );
}
