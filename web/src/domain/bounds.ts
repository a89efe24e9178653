/** What may come out at least and at most, said once where both read alike: `6 s to 8 s`, `14 min`. */
export function rangeText(low: number, high: number, text: (value: number) => string): string {
  const [least, most] = [text(low), text(high)];
  return least === most ? most : `${least} to ${most}`;
}
