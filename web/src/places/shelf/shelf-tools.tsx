import { Minus, Plus, X } from "lucide-react";
import { ToggleGroup } from "radix-ui";

import type { Schemas } from "../../api/client";
import { durationText } from "../../domain/durations";
import { roleWord } from "../../parts/roles";
import { Button } from "../../ui/button";
import { Field } from "../../ui/field";
import { Select } from "../../ui/select";
import { isNarrowed, LENGTHS, SORTS, type View, WHOLE, ZOOMS } from "./view";

type Role = Schemas["Role"];

const ROLES: Role[] = ["feature", "episode", "play_all", "extra", "duplicate", "menu"];

interface Props {
  view: View;
  onView: (view: View) => void;
  counts: Map<Role, number>;
}

/** What is shown of the Shelf: words, roles, lengths, order and scale. */
export function ShelfTools({ view, onView, counts }: Props) {
  const set = (change: Partial<View>) => onView({ ...view, ...change });
  const zoomAt = ZOOMS.indexOf(view.zoom);
  return (
    <div
      className="flex flex-wrap items-center gap-x-4 gap-y-2 px-6 pb-2 text-[13px] max-md:px-3"
      role="search"
      aria-label="What is shown"
    >
      <Field
        hideLabel
        label="Find on the Shelf"
        placeholder="Find on the Shelf"
        value={view.text}
        onChange={(text) => set({ text })}
        className="w-44"
      />
      <ToggleGroup.Root
        type="multiple"
        value={view.roles}
        onValueChange={(said) => set({ roles: ROLES.filter((role) => said.includes(role)) })}
        aria-label="Roles"
        className="flex flex-wrap gap-1"
      >
        {ROLES.filter((role) => counts.has(role)).map((role) => (
          <ToggleGroup.Item
            key={role}
            value={role}
            className="h-7 rounded-full border border-hairline bg-raised px-2.5 hover:border-quiet data-[state=on]:border-deep data-[state=on]:bg-deep data-[state=on]:text-deep-ink"
          >
            {roleWord(role)} <span className="opacity-75">{counts.get(role)}</span>
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
      <Select
        label="Least length"
        value={String(view.longer)}
        onChange={(longer) => set({ longer: Number(longer) })}
        choices={LENGTHS.map((length) => ({
          value: String(length),
          text: length ? `${durationText(length)} and longer` : "any length",
        }))}
      />
      <Select
        label="Order"
        value={view.sort}
        onChange={(sort) => set({ sort })}
        choices={SORTS.map((sort) => ({ value: sort, text: sort }))}
      />
      {isNarrowed(view) && (
        <Button
          look="link"
          size="text"
          onClick={() => onView({ ...WHOLE, sort: view.sort, zoom: view.zoom })}
        >
          <X size={13} /> Show all
        </Button>
      )}
      <div className="ml-auto flex items-center gap-1" role="group" aria-label="Time scale">
        <Button
          look="quiet"
          size="icon"
          aria-label="Smaller scale"
          disabled={zoomAt <= 0}
          onClick={() => set({ zoom: ZOOMS[zoomAt - 1] ?? 1 })}
        >
          <Minus size={14} />
        </Button>
        <span className="w-8 text-center text-quiet">{view.zoom}×</span>
        <Button
          look="quiet"
          size="icon"
          aria-label="Larger scale"
          disabled={zoomAt >= ZOOMS.length - 1}
          onClick={() => set({ zoom: ZOOMS[zoomAt + 1] ?? 1 })}
        >
          <Plus size={14} />
        </Button>
      </div>
    </div>
  );
}
