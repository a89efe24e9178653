import { Disc3 } from "lucide-react";

import type { Schemas } from "../../api/client";
import { useDriveAction, useDrives } from "../../api/queries";
import { Button } from "../../ui/button";
import { Notice } from "../../ui/notice";
import { Select } from "../../ui/select";

type Drive = Schemas["Drive"];

const DVD_SPEED = 1_385_000;

function said(drive: Drive): string {
  const speed = drive.speed_bytes_s
    ? ` It reads at ${Math.round(drive.speed_bytes_s / DVD_SPEED)} times the speed of play.`
    : "";
  return {
    empty: "No disc in it. Put one in, and what is on it will show here.",
    spinning_up: "A disc is in it and comes up to speed …",
    ready: `${drive.label ?? "A disc"} is ready.${speed}`,
    unreadable: "The disc in it can't be read. Is it blank, scratched, or upside down?",
    absent: "",
  }[drive.state];
}

/** The disc drives: what lies in each, and what can be done about it. */
export function DriveRows() {
  const drives = useDrives();
  const act = useDriveAction();
  if (!drives.data?.length) return null;
  return (
    <div className="px-6 max-md:px-3">
      {drives.data.map((drive) => (
        <section
          key={drive.number}
          aria-label={drive.name}
          className="grid grid-cols-[200px_1fr] items-center gap-x-4 gap-y-1 border-b border-hairline py-2.5 max-md:grid-cols-1"
        >
          <h2 className="flex items-center gap-2 text-[16px]">
            <Disc3
              size={17}
              className={`text-river ${drive.state === "spinning_up" ? "animate-spin" : ""}`}
              aria-hidden
            />
            {drive.name}
          </h2>
          <div className="flex min-w-0 flex-wrap items-center gap-3 pl-7 max-md:pl-0">
            <p className="min-w-0 flex-1 text-quiet" role="status">
              {said(drive)}
            </p>
            {drive.state === "ready" && drive.source_id === null && (
              <Button
                size="small"
                look="primary"
                onClick={() => act.mutate({ number: drive.number, verb: "read" })}
              >
                Read this disc
              </Button>
            )}
            {drive.state === "empty" && drive.discs.length > 0 && (
              <Select
                label="Put a disc in"
                value=""
                placeholder="Put a disc in"
                onChange={(disc) => act.mutate({ number: drive.number, disc, verb: "insert" })}
                choices={drive.discs.map((disc) => ({ value: disc, text: disc }))}
              />
            )}
            {drive.state !== "empty" && (
              <Button size="small" onClick={() => act.mutate({ number: drive.number, verb: "eject" })}>
                Take it out
              </Button>
            )}
          </div>
          {act.isError && <Notice look="fault">{act.error.message}</Notice>}
        </section>
      ))}
    </div>
  );
}
