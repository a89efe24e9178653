import { under } from "../../api/base";
import type { Schemas } from "../../api/client";
import { exactText } from "../../domain/durations";
import { useDebounced } from "../../parts/debounced";
import { useScrubFrame } from "../../parts/scrub-frames";
import { CropFrame } from "./crop-frame";
import { DividedExcerpt } from "./divided-excerpt";
import { DividedFrame } from "./divided-frame";
import { onPicture } from "./kept";
import type { Frame } from "./use-frame";
import type { Playing } from "./use-playing";

type Sheet = Schemas["Sheet"];

const REST_MS = 120;

interface Props {
  sheet: Sheet;
  frame: Frame;
  at: number;
  near: boolean;
  playing: Playing;
  onAt: (at: number) => void;
}

/** What is seen at a moment: the frame that is worked on, seconds that play, or a still on both sides of the divide. */
export function ShownPicture({ sheet, frame, at, near, playing, onAt }: Props) {
  const { from, switched } = playing;
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
      {frame.isOpen && frame.framing && from === null ? (
        <CropFrame
          sheet={sheet}
          framing={frame.framing}
          cut={frame.cut}
          at={still}
          moment={exactText(still)}
          guides={frame.guides}
          onCut={frame.setCut}
        />
      ) : from !== null && isMade ? (
        <DividedExcerpt
          key={`${from} ${switched.sound} ${switched.subtitle ?? ""}`}
          sheet={sheet}
          from={from}
          switched={switched}
          screen={screen}
          still={frames}
          onAt={(to) => onAt(onPicture(to, sheet))}
          onEnd={playing.end}
          onFail={playing.fail}
        />
      ) : from !== null ? (
        <video
          src={under(`/api/shelf/titles/${sheet.title_id}/snippet.mp4?from=${from.toFixed(3)}${sound}`)}
          autoPlay
          className="h-[300px] max-w-full rounded-md bg-screen object-contain"
          style={{ aspectRatio: `${screen.width} / ${screen.height}` }}
          onTimeUpdate={(event) => onAt(onPicture(from + event.currentTarget.currentTime, sheet))}
          onEnded={playing.stop}
          onError={playing.stop}
          aria-label={`Playing from ${exactText(from)}`}
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
