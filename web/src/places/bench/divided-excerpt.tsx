import { type ReactNode, useEffect, useRef, useState } from "react";

import { under } from "../../api/base";
import type { Schemas } from "../../api/client";
import { exactText } from "../../domain/durations";
import { Divide } from "./divide";
import { onPicture } from "./kept";
import type { Switched } from "./use-playing";

const APART_S = 0.06;
const LENGTH_S = 10;

interface Props {
  sheet: Schemas["Sheet"];
  from: number;
  switched: Switched;
  screen: { width: number; height: number };
  /** What is shown until the seconds are made. */
  still: ReactNode;
  onAt: (at: number) => void;
  /** The seconds are over; the next ones begin there. */
  onEnd: (at: number) => void;
  onFail: () => void;
}

/** What of the source's side there is: not looked for yet, made, or to be seen; nothing where it is the same or failed. */
type Beside = "later" | "making" | "there" | "none";

/**
 * Ten seconds of the file, made as the job will make them and with its sound, which begin while the rest of them is made;
 * beside them, as soon as they are there, the same pictures of the source. Both play in step.
 */
export function DividedExcerpt({ sheet, from, switched, screen, still, onAt, onEnd, onFail }: Props) {
  const made = useRef<HTMLVideoElement>(null);
  const source = useRef<HTMLVideoElement>(null);
  const [playing, setPlaying] = useState(false);
  const [beside, setBeside] = useState<Beside>(sheet.treatment === "convert" ? "later" : "none");
  const begin = () => {
    if (playing) return;
    setPlaying(true);
    // asked for only now: what plays is not kept waiting for it
    setBeside((old) => (old === "later" ? "making" : old));
    void made.current?.play().catch(() => undefined);
  };
  const join = () => {
    if (beside !== "making") return;
    setBeside("there");
    keepStep();
    if (!made.current?.paused) void source.current?.play().catch(() => undefined);
  };
  useAhead(playing && (beside === "there" || beside === "none"), sheet, from, switched);
  const keepStep = () => {
    const [leads, follows] = [made.current, source.current];
    // one of which nothing is known yet would only note where it is to begin
    if (leads && follows?.readyState && Math.abs(follows.currentTime - leads.currentTime) > APART_S)
      follows.currentTime = leads.currentTime;
  };
  const tell = () => {
    keepStep();
    if (made.current) onAt(from + made.current.currentTime);
  };
  const end = () => {
    const video = made.current;
    if (!video) return;
    // on a slow machine the same seconds come again until they can be compared
    if (beside === "making") void video.play().catch(() => undefined);
    else onEnd(afterSeconds(sheet, from));
  };
  return (
    <div className="relative">
      {!playing && still}
      <div className={playing ? "" : "invisible absolute inset-0"}>
        <Divide
          screen={screen}
          madeWord={sheet.treatment === "convert" ? "as it will be" : "unchanged"}
          follows={beside === "making"}
          made={
            <video
              ref={made}
              src={addressOf(sheet, from, switched)}
              preload="auto"
              className="absolute inset-0 size-full object-contain"
              onCanPlay={begin}
              onTimeUpdate={tell}
              onEnded={end}
              onError={onFail}
              aria-label={`Playing as it will be from ${exactText(from)}`}
            />
          }
          source={
            beside === "making" || beside === "there" ? (
              <video
                ref={source}
                src={addressOf(sheet, from, null)}
                preload="auto"
                muted
                className="size-full object-contain"
                onCanPlay={join}
                // without it there is nothing to compare with, and all to see
                onError={() => setBeside("none")}
                aria-label={`Playing the source from ${exactText(from)}`}
              />
            ) : null
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

/** Of the seconds as they will be, with what is switched on; of the source beside them where that is nothing. */
function addressOf(sheet: Schemas["Sheet"], from: number, switched: Switched | null): string {
  const moment = `/api/bench/plans/${sheet.title_id}/${sheet.target_id}/moments/${Math.round(from * 1000)}`;
  const asked = new URLSearchParams({ made: sheet.settings_mark });
  if (switched === null) asked.set("source", "");
  if (switched?.sound) asked.set("sound", String(switched.sound));
  if (switched && switched.subtitle !== null) asked.set("subtitle", String(switched.subtitle));
  return under(`${moment}/excerpt.mp4?${asked}`);
}

/** Where the seconds that begin at a moment end: what plays while it is made does not know it. */
const afterSeconds = (sheet: Schemas["Sheet"], from: number) =>
  onPicture(Math.min(from + LENGTH_S, sheet.duration_s), sheet);

/** Has the next seconds made while somebody looks at these, once these are whole. */
function useAhead(begins: boolean, sheet: Schemas["Sheet"], from: number, switched: Switched) {
  useEffect(() => {
    if (!begins) return;
    // it must not take the place of what is looked at instead
    const left = new AbortController();
    void makeAhead(sheet, from, switched, left.signal);
    return () => left.abort();
  }, [begins, sheet, from, switched]);
}

/** Of each file only a byte is asked for. */
async function makeAhead(sheet: Schemas["Sheet"], from: number, switched: Switched, signal: AbortSignal) {
  const next = afterSeconds(sheet, from);
  const beside = sheet.treatment === "convert" ? [addressOf(sheet, next, null)] : [];
  const wanted = [addressOf(sheet, from, switched), addressOf(sheet, next, switched), ...beside];
  for (const address of next < sheet.duration_s - 1 ? wanted : []) {
    const answer = await fetch(address, { headers: { Range: "bytes=0-0" }, signal }).catch(() => null);
    if (!answer?.ok) return;
  }
}
