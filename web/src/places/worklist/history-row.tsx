import type { ReactNode } from "react";

import type { Schemas } from "../../api/client";
import { spanText } from "../../domain/durations";
import { momentOf } from "../../domain/history";
import { sizeText } from "../../domain/sizes";
import { EndMark } from "./end-mark";

/** What became of a job: what was made for whom, when, how large and how long, and what was expected of it. */
export function HistoryRow({ record }: { record: Schemas["Record"] }) {
  const made = record.state === "done";
  const what = made ? record.file_name || record.summary : record.message || "Stopped. Nothing was kept.";
  const size = made && sizeText(record.size_bytes);
  const took = record.made_s !== null && spanText(record.made_s);
  return (
    <div className="grid grid-cols-[20px_minmax(0,1.3fr)_minmax(0,1.4fr)_124px_112px_148px] items-center gap-x-3 border-t border-hairline py-2 max-lg:grid-cols-[20px_minmax(0,1fr)_auto]">
      <EndMark state={record.state} />
      <span className="min-w-0">
        <span className="block truncate font-semibold" title={record.title_name}>
          {record.title_name}
        </span>
        <span className="block truncate text-[13px] text-quiet">
          {[record.device_names.join(", "), record.source_name].filter(Boolean).join(" · ")}
        </span>
      </span>
      <span
        className={`min-w-0 text-[13px] max-lg:col-span-2 max-lg:col-start-2 max-lg:row-start-2 ${
          made || record.state === "stopped" ? "truncate text-quiet" : "text-madder"
        }`}
        title={made ? [what, record.summary, record.message].join("\n").trim() : undefined}
      >
        {what}
        {made && record.message && <span className="block truncate">{record.message}</span>}
      </span>
      <Measured
        value={size}
        expected={made && record.expected_bytes > 0 && sizeText(record.expected_bytes)}
      />
      <Measured value={took} expected={made && record.expected_s > 0 && spanText(record.expected_s)} />
      <span className="text-right text-[13px] text-quiet max-lg:col-start-3 max-lg:row-start-1">
        <time dateTime={record.ended}>{momentOf(record.ended)}</time>
        {made && <span className="block lg:hidden">{[size, took].filter(Boolean).join(" · ")}</span>}
      </span>
    </div>
  );
}

function Measured({ value, expected }: { value: ReactNode; expected: string | false }) {
  return (
    <span className="text-right max-lg:hidden">
      {value}
      {expected && <span className="block text-[13px] text-quiet">{expected} expected</span>}
    </span>
  );
}
