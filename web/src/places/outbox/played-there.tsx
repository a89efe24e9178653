import { Check, TriangleAlert } from "lucide-react";

import type { Schemas } from "../../api/client";
import { useReportPlayed } from "../../api/queries";
import { TROUBLES, troubleText } from "../../parts/trouble";
import { Button } from "../../ui/button";
import { Menu } from "../../ui/menu";
import { Notice } from "../../ui/notice";

/** Whether the file played on the devices it is for: what is told here makes their profiles surer. */
export function PlayedThere({ output }: { output: Schemas["Output"] }) {
  const report = useReportPlayed(output.id);
  if (!output.played_on.length || !output.present) return null;
  return (
    <section className="mt-6" aria-label="Did it play there?">
      <h3 className="text-[15px]">Did it play there?</h3>
      <p className="text-[13px] text-quiet">
        What you saw makes the device’s profile surer, and the next file better.
      </p>
      {report.isError && <Notice look="fault">{report.error.message}</Notice>}
      <ul className="mt-1.5 divide-y divide-hairline border-y border-hairline">
        {output.played_on.map((there) => (
          <li key={there.device_id} className="flex flex-wrap items-center gap-x-3 gap-y-1.5 py-2">
            <span className="min-w-[160px] flex-1 font-semibold">{there.device_name}</span>
            {there.reported && <Said trouble={there.trouble} />}
            <Button
              size="small"
              disabled={report.isPending}
              onClick={() => report.mutate({ device_id: there.device_id, trouble: null })}
              aria-label={`It plays on ${there.device_name}`}
            >
              It plays
            </Button>
            <Menu
              label={`Something is wrong on ${there.device_name}`}
              entries={TROUBLES.map(([key, text]) => ({
                text,
                onChoose: () => report.mutate({ device_id: there.device_id, trouble: key }),
              }))}
            >
              <Button size="small" disabled={report.isPending}>
                Something is wrong
              </Button>
            </Menu>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Said({ trouble }: { trouble: Schemas["Trouble"] | null }) {
  if (!trouble)
    return (
      <span className="flex items-center gap-1 text-[13px] text-moss">
        <Check size={14} aria-hidden /> it plays
      </span>
    );
  return (
    <span className="flex items-center gap-1 text-[13px] text-madder">
      <TriangleAlert size={14} aria-hidden /> {troubleText(trouble)}
    </span>
  );
}
