import { sizeText } from "../../../domain/sizes";
import { type StorageFacts, type StoragePart, storageParts } from "../../../domain/storage";

const LOOKS: Record<StoragePart, string> = {
  others: "bg-quiet/55",
  there: "bg-river",
  coming: "bg-river/60 hatch-over text-raised",
  picked: "bg-marigold",
  free: "bg-sunk",
  kept: "bg-sunk border-l border-dashed border-quiet",
};

const NAMES: Record<StoragePart, string> = {
  others: "other things",
  there: "files from here",
  coming: "on their way",
  picked: "picked",
  free: "free",
  kept: "left to the device",
};

interface Props {
  facts: StorageFacts;
  picked?: number;
  label: string;
  /** With the names of its parts below it. */
  legend?: boolean;
}

/** How full a storage is, and will be. */
export function StorageBar({ facts, picked = 0, label, legend = false }: Props) {
  const parts = storageParts(facts, picked);
  if (!parts.length || !facts.total_bytes) return null;
  const total = facts.total_bytes;
  const said = parts.map(({ part, bytes }) => `${sizeText(bytes)} ${NAMES[part]}`).join(", ");
  return (
    <div>
      <div
        role="img"
        aria-label={`${label}: ${said}`}
        className={`flex w-full overflow-hidden rounded-full border border-hairline bg-sunk ${legend ? "h-4" : "h-2.5"}`}
      >
        {parts.map(({ part, bytes }) => (
          <span
            key={part}
            className={`h-full shrink-0 transition-[width] duration-300 ${LOOKS[part]}`}
            style={{ width: `${(bytes / total) * 100}%` }}
          />
        ))}
      </div>
      {legend && (
        <ul className="mt-2 flex flex-wrap gap-x-5 gap-y-1 text-[13px] text-quiet">
          {parts.map(({ part, bytes }) => (
            <li key={part} className="flex items-center gap-1.5">
              <span className={`size-3 rounded-[3px] border border-hairline ${LOOKS[part]}`} aria-hidden />
              {NAMES[part]} <span className="text-ink">{sizeText(bytes)}</span>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
