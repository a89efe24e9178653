interface Props {
  checked: boolean;
  /** Some of what it stands for is picked, not all. */
  partly?: boolean;
  /** ``range``: with Shift, everything since the last one is meant. */
  onChange: (checked: boolean, range: boolean) => void;
  label: string;
  disabled?: boolean;
}

/** The browser's own checkbox in our looks: tables draw hundreds of them at once. */
export function Checkbox({ checked, partly = false, onChange, label, disabled }: Props) {
  return (
    <input
      type="checkbox"
      ref={(box) => {
        if (box) box.indeterminate = partly;
      }}
      checked={checked}
      disabled={disabled}
      onChange={(event) =>
        onChange(event.target.checked, event.nativeEvent instanceof MouseEvent && event.nativeEvent.shiftKey)
      }
      aria-label={label}
      className="tick size-4 shrink-0 appearance-none rounded-[4px] border border-quiet bg-raised checked:border-marigold checked:bg-marigold indeterminate:border-marigold indeterminate:bg-marigold disabled:border-dashed disabled:opacity-60"
    />
  );
}
