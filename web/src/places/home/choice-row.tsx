import type { ReactNode } from "react";

interface Props {
  kind: "checkbox" | "radio";
  checked: boolean;
  onChange: (checked: boolean) => void;
  name: string;
  /** What goes under the name: a path, and so on. */
  detail: string;
  aside?: ReactNode;
  disabled?: boolean;
}

/** One answer, told in two lines; the whole row is its label. */
export function ChoiceRow({ kind, checked, onChange, name, detail, aside, disabled }: Props) {
  return (
    <li>
      <label className="flex cursor-pointer items-center gap-3 px-3 py-2.5 hover:bg-sunk has-disabled:cursor-default has-disabled:opacity-60">
        <input
          type={kind}
          checked={checked}
          disabled={disabled}
          onChange={(event) => onChange(event.target.checked)}
          className="size-4 shrink-0 accent-marigold"
        />
        <span className="min-w-0 flex-1">
          <span className="block truncate font-semibold">{name}</span>
          <span className="block truncate text-[12.5px] text-quiet" title={detail}>
            {detail}
          </span>
        </span>
        {aside && <span className="shrink-0 text-right text-quiet">{aside}</span>}
      </label>
    </li>
  );
}

/** The frame around rows of answers. */
export function ChoiceList({ label, children }: { label: string; children: ReactNode }) {
  return (
    <ul
      aria-label={label}
      className="divide-y divide-hairline overflow-hidden rounded-card border border-hairline bg-raised"
    >
      {children}
    </ul>
  );
}
