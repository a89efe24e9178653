import { Cpu } from "lucide-react";
import { type ReactNode, useState } from "react";

import type { Schemas } from "../../api/client";
import { useMindBattery, useMindOthers, useShareMachine } from "../../api/worklist";
import { timeText } from "../../domain/durations";
import { Button } from "../../ui/button";
import { Checkbox } from "../../ui/checkbox";
import { Popover } from "../../ui/popover";
import { Select } from "../../ui/select";
import { NoticeBar } from "./notice-bar";

type Machine = Schemas["Machine"];
type Use = Machine["share"];

const HALF = "half";

const coresText = (count: number) => (count === 1 ? "1 core" : `${count} cores`);

function inShort({ share, leaves_room, used, at_once }: Machine): string {
  const part = leaves_room
    ? `On ${coresText(used)}`
    : share === "all"
      ? "All of the machine"
      : "All by night";
  return at_once > 1 ? `${part}, ${at_once} at once` : part;
}

/** Opens the choice of how much of the machine is taken, and says how much it is. */
export function MachineButton({ machine }: { machine: Machine }) {
  const [open, setOpen] = useState(false);
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label="How much of the machine"
      trigger={
        <Button>
          <Cpu size={15} aria-hidden />
          {inShort(machine)}
        </Button>
      }
    >
      <MachineForm machine={machine} />
    </Popover>
  );
}

function choicesOf({
  cores,
  used,
  day_begins,
  day_ends,
}: Machine): readonly { use: Use; name: string; about: string }[] {
  const part = `${used} of ${coresText(cores)}`;
  return [
    { use: "all", name: "All of it", about: "Quickest. Other programs still come first." },
    { use: "leave room", name: "Leave room", about: `Always on ${part}: cooler and quieter.` },
    {
      use: "leave room by day",
      name: "Leave room by day",
      about: `On ${part} from ${timeText(day_begins)} to ${timeText(day_ends)}.`,
    },
  ];
}

function MachineForm({ machine }: { machine: Machine }) {
  const set = useShareMachine();
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
  // what was chosen is shown at once, not when the server has heard of it
  const stored = {
    share: machine.share,
    used: machine.chosen ? machine.used : null,
    at_once: machine.at_once,
  };
  const { share, used, at_once } = (set.isPending && set.variables) || stored;
  const change = (other: Partial<Schemas["MachineChoice"]>) =>
    set.mutate({ share, used: used ?? null, at_once, zone, ...other });
  return (
    <div className="grid grid-cols-1 gap-3">
      <fieldset className="grid gap-2">
        <legend className="sr-only">How much of the machine</legend>
        {choicesOf(machine).map(({ use, name, about }) => (
          <label key={use} className="flex cursor-pointer items-start gap-2.5">
            <input
              type="radio"
              name="machine"
              checked={share === use}
              onChange={() => change({ share: use })}
              className="mt-[3px] size-4 shrink-0 accent-marigold"
            />
            <span>
              <span className="block font-semibold">{name}</span>
              <span className="block text-[13px] text-quiet">{about}</span>
            </span>
          </label>
        ))}
      </fieldset>
      {share !== "all" && machine.cores > 2 && (
        <Line label="Where room is left">
          <Select
            label="Cores used where room is left"
            value={used ? String(used) : HALF}
            choices={[
              { value: HALF, text: "half of the cores" },
              ...upTo(machine.cores - 1).map((count) => ({ value: String(count), text: coresText(count) })),
            ]}
            onChange={(said) => change({ used: said === HALF ? null : Number(said) })}
          />
        </Line>
      )}
      {machine.most_at_once > 1 && (
        <div className="border-t border-hairline pt-3">
          <Line label="Made at once">
            <Select
              label="Made at once"
              value={String(at_once)}
              choices={upTo(machine.most_at_once).map((count) => ({
                value: String(count),
                text: count === 1 ? "1 file" : `${count} files`,
              }))}
              onChange={(said) => change({ at_once: Number(said) })}
            />
          </Line>
          <p className="mt-1 text-[13px] text-quiet">
            Several small files side by side fill many cores better; each of them takes longer. Another one
            begins only while a gigabyte of memory is free.
          </p>
        </div>
      )}
      <StandStill machine={machine} />
      {set.isError && (
        <p role="alert" className="text-[13px] text-madder">
          {set.error.message}
        </p>
      )}
    </div>
  );
}

const upTo = (most: number) => Array.from({ length: most }, (_, index) => index + 1);

function Line({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="flex items-center justify-between gap-3">
      <span>{label}</span>
      {children}
    </div>
  );
}

/** When everything stands still, whatever it is that asks for the machine. */
function StandStill({ machine }: { machine: Machine }) {
  const others = useMindOthers();
  const battery = useMindBattery();
  return (
    <div className="grid gap-2 border-t border-hairline pt-3">
      <Minded label="Stand still while others use it" minded={machine.others_minded} set={others} />
      {machine.has_battery && (
        <Minded label="Stand still on battery" minded={machine.battery_minded} set={battery} />
      )}
    </div>
  );
}

interface MindedProps {
  label: string;
  minded: boolean;
  set: ReturnType<typeof useMindOthers>;
}

function Minded({ label, minded, set }: MindedProps) {
  return (
    <label className="flex items-center gap-2.5">
      <Checkbox
        label={label}
        checked={set.isPending ? set.variables : minded}
        onChange={(wanted) => set.mutate(wanted)}
      />
      {label}
    </label>
  );
}

/** That everything stands still for the machine's sake, and what can be done about it. */
export function MachineSpared({ spared }: { spared: NonNullable<Machine["spared"]> }) {
  const battery = useMindBattery();
  const others = useMindOthers();
  if (spared === "heat") return <NoticeBar why={WHY.heat} />;
  const mind = spared === "battery" ? battery : others;
  return (
    <NoticeBar why={mind.isError ? mind.error.message : WHY[spared]}>
      <Button onClick={() => mind.mutate(false)} disabled={mind.isPending}>
        Go on anyway
      </Button>
    </NoticeBar>
  );
}

const WHY: Record<NonNullable<Machine["spared"]>, string> = {
  heat: "The machine is nearly too hot to go on. Everything stands still until it has cooled down.",
  battery: "The machine lives on its battery. Everything stands still until it is plugged in.",
  others:
    "Other programs use the machine. Everything stands still until it has been left alone for a minute.",
};
