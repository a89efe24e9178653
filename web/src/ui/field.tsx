interface Props {
  label: string;
  value: string;
  onChange: (value: string) => void;
  onEnter?: () => void;
  placeholder?: string;
  autoFocus?: boolean;
  hideLabel?: boolean;
  className?: string;
}

/** A line of text with its label. */
export function Field({
  label,
  value,
  onChange,
  onEnter,
  placeholder,
  autoFocus,
  hideLabel,
  className = "",
}: Props) {
  return (
    <label className={`block ${className}`}>
      <span className={hideLabel ? "sr-only" : "mb-1 block text-quiet"}>{label}</span>
      <input
        value={value}
        autoFocus={autoFocus}
        placeholder={placeholder}
        onChange={(event) => onChange(event.target.value)}
        onKeyDown={(event) => event.key === "Enter" && onEnter?.()}
        className="h-8 w-full rounded-lg border border-hairline bg-raised px-2.5 placeholder:text-quiet hover:border-quiet"
      />
    </label>
  );
}
