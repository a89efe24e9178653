import { type ReactNode, useEffect, useRef, useState } from "react";

import { under } from "../../api/base";
import type { Schemas } from "../../api/client";
import { exactText } from "../../domain/durations";
import { Divide } from "./divide";

const APART_S = 0.06;
const LENGTH_S = 10;

interface Props {
  sheet: Schemas["Sheet"];
  from: number;
  screen: { width: number; height: number };
  /** What is shown until the seconds are made. */
  still: ReactNode;
  onAt: (at: number) => void;
  /** The seconds are over; the next ones begin there. */
  onEnd: (at: number) => void;
  onFail: () => void;
}

/**
 * Ten seconds of the file, made as the job will make them and with its sound, beside the same pictures of the source:
 * both play in step.
 */
export function DividedExcerpt({ sheet, from, screen, still, onAt, onEnd, onFail }: Props) {
  const made = useRef<HTMLVideoElement>(null);
  const source = useRef<HTMLVideoElement>(null);
  const [ready, setReady] = useState({ made: false, source: sheet.treatment !== "convert" });
  const playing = ready.made && ready.source;
  useEffect(() => {
    if (!playing) return;
    void source.current?.play().catch(() => undefined);
    void made.current?.play().catch(() => undefined);
    if (made.current) makeAhead(sheet, from + made.current.duration);
  }, [playing, sheet, from]);
  const keepStep = () => {
    const [leads, follows] = [made.current, source.current];
    if (!leads) return;
    onAt(from + leads.currentTime);
    if (follows && Math.abs(follows.currentTime - leads.currentTime) > APART_S)
      follows.currentTime = leads.currentTime;
  };
  return (
    <div className="relative">
      {!playing && still}
      <div className={playing ? "" : "invisible absolute inset-0"}>
        <Divide
          screen={screen}
          madeWord={sheet.treatment === "convert" ? "as it will be" : "unchanged"}
          made={
            <video
              ref={made}
              src={addressOf(sheet, from, false)}
              preload="auto"
              className="absolute inset-0 size-full object-contain"
              onCanPlay={() => setReady((old) => ({ ...old, made: true }))}
              onTimeUpdate={keepStep}
              onEnded={(event) => onEnd(from + event.currentTarget.duration)}
              onError={onFail}
              aria-label={`Playing as it will be from ${exactText(from)}`}
            />
          }
          source={
            sheet.treatment === "convert" && (
              <video
                ref={source}
                src={addressOf(sheet, from, true)}
                preload="auto"
                muted
                className="size-full object-contain"
                onCanPlay={() => setReady((old) => ({ ...old, source: true }))}
                // without it there is nothing to compare with, and all to see
                onError={() => setReady((old) => ({ ...old, source: true }))}
                aria-label={`Playing the source from ${exactText(from)}`}
              />
            )
          }
        />
      </div>
      {!playing && (
        <p
          role="status"
          className="absolute inset-x-0 bottom-3 mx-auto w-fit rounded bg-screen/85 px-2.5 py-1 text-[13px] text-screen-ink"
        >
          Making {LENGTH_S} seconds as they will be…
        </p>
      )}
    </div>
  );
}

function addressOf(sheet: Schemas["Sheet"], from: number, source: boolean): string {
  const moment = `/api/bench/plans/${sheet.title_id}/${sheet.target_id}/moments/${Math.round(from * 1000)}`;
  return under(`${moment}/excerpt.mp4?made=${sheet.settings_mark}${source ? "&source" : ""}`);
}

/** Has the next seconds made while somebody looks at these: of each file only a byte is asked for. */
function makeAhead(sheet: Schemas["Sheet"], from: number) {
  if (from >= sheet.duration_s - 1) return;
  const asked = [false, ...(sheet.treatment === "convert" ? [true] : [])];
  for (const source of asked)
    fetch(addressOf(sheet, from, source), { headers: { Range: "bytes=0-0" } }).catch(() => undefined);
}
