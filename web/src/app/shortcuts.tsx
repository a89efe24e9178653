import { useEffect, useEffectEvent } from "react";
import { useNavigate } from "react-router";

import { Dialog } from "../ui/dialog";

const GO: Record<string, string> = {
  "1": "/shelf",
  "2": "/bench",
  "3": "/worklist",
  "4": "/outbox",
  "5": "/household",
  "6": "/settings",
};

const LIST = [
  ["1 – 4", "Shelf, Bench, Worklist, Outbox"],
  ["5", "Household"],
  ["6", "Settings"],
  ["/", "Find a title"],
  ["Tab, Shift Tab", "Next and previous control"],
  ["Enter", "Open the title or cell in focus"],
  ["Space", "Pick the title or cell in focus"],
  ["Arrow keys", "Move over the Bench’s cells; on a strip a picture on, with Shift a second"],
  ["[ ] x", "On a plan’s strip: from here, to here, take out a piece"],
  ["Esc", "Close what is open"],
  ["?", "This list"],
] as const;

function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    target.closest("input:not([type=checkbox]), textarea, [role=dialog], [role=listbox]") !== null
  );
}

/**
 * Keys that go to a place, and `shown`: what shows while its key is handled, so that it is there before the
 * next key.
 */
export function useShortcuts(shown: Record<string, () => void>) {
  const navigate = useNavigate();
  const onKey = useEffectEvent((event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
    const place = GO[event.key];
    const show = shown[event.key];
    if (place) void navigate(place);
    else if (show) show();
    else return;
    event.preventDefault();
  });
  useEffect(() => {
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, []);
}

export function Shortcuts({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  return (
    <Dialog open={open} onOpenChange={onOpenChange} title="Keys">
      <dl className="grid grid-cols-[auto_1fr] gap-x-6 gap-y-2.5">
        {LIST.map(([key, text]) => (
          <div key={key} className="contents">
            <dt>
              <kbd className="rounded border border-hairline bg-ground px-2 py-0.5 font-semibold">{key}</kbd>
            </dt>
            <dd className="text-quiet">{text}</dd>
          </div>
        ))}
      </dl>
    </Dialog>
  );
}
