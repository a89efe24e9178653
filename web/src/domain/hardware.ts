interface Codec {
  codec: string;
  ten_bits: boolean;
  cost: { size_share: number | null; time_share: number | null; measured_with: string } | null;
}

interface Family {
  codecs: readonly Codec[];
  missing: readonly { codec: string; why: string }[];
}

/** Codecs by name, and which of them also with ten bits. */
export const codecsText = (codecs: readonly Codec[]) =>
  codecs.map(({ codec, ten_bits }) => (ten_bits ? `${codec}, also with ten bits` : codec)).join("; ");

/** What speed costs with this codec: larger or smaller by how much, made in how much of the time. */
export function costText({ codec, cost }: Codec): string {
  if (!cost) return `${codec}: what it costs was not measured yet`;
  const { size_share, time_share, measured_with } = cost;
  if (!measured_with)
    return `${codec}: no title on the Shelf could be made both ways, so its cost is not known`;
  const size = size_share === null ? "more than five times as large, or never as fine" : sizeOf(size_share);
  const time = time_share === null ? "" : `, made in ${Math.round(time_share * 100)} % of the time`;
  return `${codec}: for the same picture ${size}${time} (measured with ${measured_with})`;
}

function sizeOf(share: number): string {
  const more = Math.round((share - 1) * 100);
  if (more === 0) return "as large";
  return more > 0 ? `${more} % larger` : `${-more} % smaller`;
}

/** Why the rest does not work, each reason once with the codecs that it is about, where not all are. */
export function whyNot({ missing, codecs }: Family): string[] {
  const reasons = [...new Set(missing.map(({ why }) => why))];
  return reasons.map((why) => {
    if (codecs.length === 0 && reasons.length === 1) return `${why.charAt(0).toUpperCase()}${why.slice(1)}.`;
    const about = missing.filter((one) => one.why === why).map(({ codec }) => codec);
    return `${about.join(", ")}: ${why}.`;
  });
}
