import { useEffect } from "react";
import { useNavigate } from "react-router";

import { Dialog } from "../ui/dialog";

const GO: Record<string, string> = { "1": "/shelf", "2": "/bench", "3": "/worklist", "4": "/outbox", "5": "/household", "6": "/settings" };

const LIST = [
  ["1 – 4", "Shelf, Bench, Worklist, Outbox"],
  ["5", "Household"],
  ["6", "Settings"],
  ["/", "Find a title"],
  ["Tab, Shift Tab", "Next and previous control"],
  ["Enter", "Open the title or cell in focus"],
  ["Space", "Pick the title or cell in focus"],
  ["Arrow keys", "Move over the Bench’s cells"],
  ["Esc", "Close what is open"],
  ["?", "This list"],
] as const;

function isTyping(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && target.closest("input:not([type=checkbox]), textarea, [role=dialog], [role=listbox]") !== null;
}

export function useShortcuts(showHelp: () => void) {
  const navigate = useNavigate();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
      const place = GO[event.key];
      if (place) void navigate(place);
      else if (event.key === "?") showHelp();
      else if (event.key === "/") dispatchEvent(new Event("rheon:search"));
      else return;
      event.preventDefault();
    };
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, [navigate, showHelp]);
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
