import { ArrowDown, ArrowUp, X } from "lucide-react";
import { useRef, useState } from "react";

import { durationText } from "../../domain/durations";
import { moved } from "../../domain/order";
import { Button } from "../../ui/button";
import { Dialog } from "../../ui/dialog";
import { Field } from "../../ui/field";
import { Notice } from "../../ui/notice";

export interface Part {
  id: number;
  name: string;
  source: string;
  duration_s: number;
}

interface Props {
  parts: Part[];
  /** What is called what; left out where a join has its name already. */
  naming?: boolean;
  title: string;
  verb: (count: number) => string;
  isPending: boolean;
  error?: string;
  onJoin: (ids: number[], name: string) => void;
  onClose: () => void;
}

/** Puts titles in the order in which they become one. */
export function JoinTitles({ parts, naming = false, title, verb, isPending, error, onJoin, onClose }: Props) {
  const [order, setOrder] = useState(parts);
  const [name, setName] = useState("");
  const list = useRef<HTMLOListElement>(null);
  const move = (from: number, to: number) => {
    setOrder((old) => moved(old, from, to));
    // the part that was moved keeps the focus, so that it can be moved on
    const which = to < from ? "up" : "down";
    requestAnimationFrame(() => {
      const row = list.current?.children[to];
      const again = row?.querySelector<HTMLButtonElement>(`[data-move=${which}]:not(:disabled)`);
      (again ?? row?.querySelector<HTMLButtonElement>("[data-move]:not(:disabled)"))?.focus();
    });
  };
  const total = order.reduce((sum, part) => sum + part.duration_s, 0);
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={title}
      about="They follow each other in this order. The parts stay on the Shelf, and nothing on a disc changes."
      footer={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button
            look="primary"
            disabled={order.length < 2 || isPending}
            onClick={() =>
              onJoin(
                order.map((part) => part.id),
                name,
              )
            }
          >
            {order.length < 2 ? "Two at least make a join" : verb(order.length)}
          </Button>
        </>
      }
    >
      {naming && (
        <Field
          label="Name"
          value={name}
          onChange={setName}
          placeholder="What their names have in common"
          className="mb-4"
        />
      )}
      <ol ref={list} className="border-t border-hairline">
        {order.map((part, place) => (
          <PartRow
            key={`${part.id}-${parts.indexOf(part)}`}
            part={part}
            atS={order.slice(0, place).reduce((sum, before) => sum + before.duration_s, 0)}
            place={place}
            count={order.length}
            onMove={(to) => move(place, to)}
            onLeaveOut={() => setOrder((old) => old.filter((one) => one !== part))}
          />
        ))}
      </ol>
      <p className="mt-3 text-quiet">
        {durationText(total)} together. Each part begins a chapter of its name.
      </p>
      {error && <Notice look="fault">{error}</Notice>}
    </Dialog>
  );
}

interface RowProps {
  part: Part;
  atS: number;
  place: number;
  count: number;
  onMove: (to: number) => void;
  onLeaveOut: () => void;
}

function PartRow({ part, atS, place, count, onMove, onLeaveOut }: RowProps) {
  return (
    <li className="flex items-center gap-3 border-b border-hairline py-1.5">
      <span className="w-14 shrink-0 text-right text-quiet">{durationText(atS)}</span>
      <span className="min-w-0 flex-1">
        <span className="block truncate" title={part.name}>
          {part.name}
        </span>
        <span className="block truncate text-[12.5px] text-quiet">
          {durationText(part.duration_s)}
          {part.source && ` · ${part.source}`}
        </span>
      </span>
      <Button
        size="icon"
        look="quiet"
        data-move="up"
        disabled={place === 0}
        aria-label={`Move ${part.name} up`}
        onClick={() => onMove(place - 1)}
      >
        <ArrowUp size={15} />
      </Button>
      <Button
        size="icon"
        look="quiet"
        data-move="down"
        disabled={place === count - 1}
        aria-label={`Move ${part.name} down`}
        onClick={() => onMove(place + 1)}
      >
        <ArrowDown size={15} />
      </Button>
      <Button size="icon" look="quiet" aria-label={`Leave ${part.name} out`} onClick={onLeaveOut}>
        <X size={15} />
      </Button>
    </li>
  );
}
