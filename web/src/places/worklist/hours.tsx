import { useState } from "react";

import { Clock } from "lucide-react";

import type { Schemas } from "../../api/client";
import { useOpenNow, useSetHours } from "../../api/worklist";
import { timeText } from "../../domain/durations";
import { Button } from "../../ui/button";
import { Popover } from "../../ui/popover";
import { NoticeBar } from "./notice-bar";

type Hours = Schemas["OpenHours"];

/** Opens the choice of the hours in which things are made, and says which they are. */
export function HoursButton({ hours }: { hours: Hours | null }) {
  const [open, setOpen] = useState(false);
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label="When things are made"
      trigger={
        <Button>
          <Clock size={15} aria-hidden />
          {hours ? `${timeText(hours.begins)} to ${timeText(hours.ends)}` : "At any hour"}
        </Button>
      }
    >
      <HoursForm hours={hours} onDone={() => setOpen(false)} />
    </Popover>
  );
}

interface TimeFieldProps {
  label: string;
  value: string;
  onChange: (value: string) => void;
}

function TimeField({ label, value, onChange }: TimeFieldProps) {
  return (
    <label className="flex items-center gap-2">
      <span className="w-9">{label}</span>
      <input
        type="time"
        value={value}
        onChange={(event) => onChange(event.target.value)}
        className="h-8 rounded-lg border border-hairline bg-raised px-2 hover:border-quiet"
      />
    </label>
  );
}

function HoursForm({ hours, onDone }: { hours: Hours | null; onDone: () => void }) {
  const [begins, setBegins] = useState(hours?.begins.slice(0, 5) ?? "22:00");
  const [ends, setEnds] = useState(hours?.ends.slice(0, 5) ?? "07:00");
  const set = useSetHours();
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
  const usable = begins !== "" && ends !== "" && begins !== ends;
  return (
    <form
      className="grid grid-cols-1 gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (usable) set.mutate({ begins, ends, zone }, { onSuccess: onDone });
      }}
    >
      <p className="text-[13px] text-quiet">
        Files are made in these hours only. What is not done when they end stands still until they begin
        again.
      </p>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <TimeField label="From" value={begins} onChange={setBegins} />
        <TimeField label="until" value={ends} onChange={setEnds} />
      </div>
      {!usable && <p className="text-[13px] text-madder">Say two different times.</p>}
      {set.isError && (
        <p role="alert" className="text-[13px] text-madder">
          {set.error.message}
        </p>
      )}
      <div className="flex flex-wrap gap-3">
        <Button type="submit" look="primary" size="small" disabled={!usable || set.isPending}>
          Keep to these hours
        </Button>
        {hours && (
          <Button
            size="small"
            onClick={() => set.mutate(null, { onSuccess: onDone })}
            disabled={set.isPending}
          >
            At any hour
          </Button>
        )}
      </div>
    </form>
  );
}

/** That the hours are waited for, and the way out of it. */
export function OutOfHours({ hours }: { hours: Hours }) {
  const open = useOpenNow();
  const why = `Files are made from ${timeText(hours.begins)} until ${timeText(hours.ends)}; until then everything stands still.`;
  return (
    <NoticeBar why={open.isError ? open.error.message : why}>
      <Button onClick={() => open.mutate(undefined)} disabled={open.isPending}>
        Begin now
      </Button>
    </NoticeBar>
  );
}
