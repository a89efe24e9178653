/** Powers of ten, as devices print them: `712 MB`, `1.38 GB`; three figures where they say something. */
export function sizeText(bytes: number): string {
  if (bytes < 1e6) return `${Math.max(1, Math.round(bytes / 1e3))} kB`;
  if (bytes < 1e9) return `${figures(bytes / 1e6)} MB`;
  return `${figures(bytes / 1e9)} GB`;
}

function figures(value: number): string {
  if (value >= 100) return Math.round(value).toString();
  return value >= 10 ? value.toFixed(1) : value.toFixed(2);
}
