import type { Schemas } from "../../api/client";

const WORDS = {
  played: "played",
  failed: "failed",
  said: "said",
  answered: "answered",
  assumed: "assumed",
} as const;

/** What each line of an asked device's profile rests on: it was really tried, only said, or assumed. */
export function EvidenceList({ evidence }: { evidence: Schemas["Evidence"][] }) {
  return (
    <details className="mt-3 text-[13px]">
      <summary className="cursor-pointer text-river">What was seen and said</summary>
      <ul className="mt-1">
        {evidence.map((entry) => (
          <li
            key={entry.line + entry.note}
            className="grid grid-cols-[64px_1fr] gap-x-2 border-t border-hairline py-1"
          >
            <span className="text-quiet">{WORDS[entry.rests_on]}</span>
            <span>
              {entry.line.charAt(0).toUpperCase() + entry.line.slice(1)}
              {entry.note && <span className="block text-quiet">{entry.note}</span>}
            </span>
          </li>
        ))}
      </ul>
    </details>
  );
}
