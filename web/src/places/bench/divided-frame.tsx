import { useState } from "react";

import { under } from "../../api/base";
import type { Schemas } from "../../api/client";
import { Divide } from "./divide";

interface Props {
  sheet: Schemas["Sheet"];
  at: number;
  screen: { width: number; height: number };
  moment: string;
  /** What can be shown at once while the moment moves, until its own picture is there. */
  meanwhile: string | null;
  moving: boolean;
}

/** A picture of the source and the same one as it will be, on both sides of a divide. */
export function DividedFrame({ sheet, at, screen, moment, meanwhile, moving }: Props) {
  const [failed, setFailed] = useState<string | null>(null);
  const [there, setThere] = useState<string | null>(null);
  const address = under(
    `/api/bench/plans/${sheet.title_id}/${sheet.target_id}/moments/${Math.round(at * 1000)}`,
  );
  // where the file has no picture made anew, it is the source's own
  const after = sheet.frame ? `${address}/after.jpg?look=${sheet.look}` : `${address}/before.jpg`;
  return (
    <Divide
      screen={screen}
      madeWord={sheet.treatment === "convert" ? "as it will be" : "unchanged"}
      made={
        failed === after ? (
          <span className="absolute inset-0 flex items-center justify-center px-8 text-center text-screen-ink">
            No picture could be read here.
          </span>
        ) : (
          <img
            src={after}
            alt={`As it will be, at ${moment}`}
            draggable={false}
            onLoad={() => setThere(after)}
            onError={() => setFailed(after)}
            className="absolute inset-0 size-full object-contain"
          />
        )
      }
      source={
        <img
          src={`${address}/before.jpg`}
          alt={`As on the source, at ${moment}`}
          draggable={false}
          className="size-full object-contain"
        />
      }
    >
      {meanwhile && failed !== after && (moving || there !== after) && (
        <img
          src={meanwhile}
          alt=""
          draggable={false}
          data-meanwhile
          className="absolute inset-0 size-full bg-screen object-contain"
        />
      )}
    </Divide>
  );
}
