import { Download } from "lucide-react";
import { useState } from "react";
import { useNavigate } from "react-router";

import { under } from "../../api/base";
import type { Schemas } from "../../api/client";
import { rangeText } from "../../domain/bounds";
import { spanText } from "../../domain/durations";
import { sizeText } from "../../domain/sizes";
import { useUndo } from "../../parts/undo";
import { RuleTable } from "../../parts/rule-table";
import { Button } from "../../ui/button";
import { Notice } from "../../ui/notice";
import { HandOver } from "./handover/hand-over";
import { OutputTags } from "./output-tags";
import { PlayedThere } from "./played-there";

type Output = Schemas["Output"];

export function OutputView({ output }: { output: Output }) {
  const { expected } = output;
  const { remove } = useUndo();
  const navigate = useNavigate();
  const takeOff = () => {
    const text = output.is_sample
      ? `The minute of ${output.title_name} is thrown away.`
      : `${output.title_name} is off the list; its file stays.`;
    remove({ kind: "output", ids: [output.id], text });
    void navigate("/outbox");
  };
  return (
    <div className="min-w-0 overflow-y-auto bg-raised px-6 py-4 max-md:px-3">
      <div className="flex flex-wrap gap-5">
        <Player output={output} />
        <div className="min-w-[220px] flex-1">
          <h2 className="text-[19px]">{output.title_name}</h2>
          {output.is_sample && (
            <p className="my-1">
              <strong>A minute to try.</strong> The part that asks most of the plan, as the whole file will
              be. See it on the device, and say below how it did there.
            </p>
          )}
          <p className="[overflow-wrap:anywhere] text-quiet">{output.file_name}</p>
          <dl className="mt-3 grid grid-cols-[72px_1fr] gap-x-3 gap-y-1">
            <Fact
              topic="Size"
              text={sizeText(output.size_bytes)}
              note={`expected ${rangeText(expected.size_low_bytes, expected.size_high_bytes, sizeText)}`}
            />
            <Fact
              topic="Time"
              text={spanText(output.making_s + output.checking_s)}
              note={`expected ${rangeText(expected.time_low_s, expected.time_high_s, spanText)}; ${spanText(output.checking_s)} of it checking`}
            />
            <Fact topic="Made of" text={output.summary} note="" />
            <Fact topic="Lies in" text={output.folder} note="" />
          </dl>
          <div className="mt-3 flex gap-3">
            {output.present && !output.is_folder && (
              <Button size="small" asChild>
                <a href={under(`/api/outbox/${output.id}/media?download`)} download>
                  <Download size={14} /> Download
                </a>
              </Button>
            )}
            <Button size="small" look="quiet" onClick={takeOff}>
              {output.is_sample ? "Throw away" : "Take off the list"}
            </Button>
          </div>
        </div>
      </div>
      {output.tags && <OutputTags key={output.id} output={output} tags={output.tags} />}
      <HandOver output={output} />
      <PlayedThere output={output} />
      {output.checks.map((check) => (
        <CheckTable key={check.device_name} check={check} />
      ))}
    </div>
  );
}

function Player({ output }: { output: Output }) {
  if (!output.present)
    return (
      <Notice look="fault">The file is not where it was made. It may have been moved or renamed.</Notice>
    );
  if (output.is_folder)
    return (
      <div className="flex aspect-video w-[320px] max-w-full items-center rounded-lg bg-sunk px-6 text-center text-quiet">
        A copy of the whole disc. Its checksums lie beside it, as sha256sum reads them.
      </div>
    );
  const address = under(`/api/outbox/${output.id}/media`);
  if (output.media_type?.startsWith("video"))
    return (
      <video
        src={address}
        controls
        preload="metadata"
        className="aspect-video w-[320px] max-w-full rounded-lg bg-screen"
        aria-label={`Play ${output.title_name}`}
      />
    );
  if (output.media_type?.startsWith("audio"))
    return (
      <audio
        src={address}
        controls
        preload="metadata"
        className="w-[320px] max-w-full"
        aria-label={`Play ${output.title_name}`}
      />
    );
  return (
    <div className="flex aspect-video w-[320px] max-w-full items-center rounded-lg bg-sunk px-6 text-center text-quiet">
      Browsers don’t play this kind of file; {output.device_names.join(" and ")} does. Download it to watch it
      here.
    </div>
  );
}

function Fact({ topic, text, note }: { topic: string; text: string; note: string }) {
  return (
    <>
      <dt className="text-quiet">{topic}</dt>
      <dd className="min-w-0 break-words">
        <strong className="font-semibold">{text}</strong> {note && <span className="text-quiet">{note}</span>}
      </dd>
    </>
  );
}

function CheckTable({ check }: { check: Schemas["Check"] }) {
  const whole = check.kept === check.rules.length;
  // what is broken comes first
  const rules = [...check.rules].sort((one, other) => Number(one.ok) - Number(other.ok));
  const [open, setOpen] = useState(!whole);
  return (
    <section className="mt-6" aria-label={`Check for ${check.device_name}`}>
      <h3 className="flex items-baseline justify-between gap-3 text-[15px]">
        Check for {check.device_name}
        <span className={`ml-auto font-text text-[13px] ${whole ? "text-moss" : "text-madder"}`}>
          {check.kept} of {check.rules.length} rules hold
        </span>
        <Button
          look="link"
          size="text"
          className="text-[13px]"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
          aria-label={`${open ? "Hide" : "Show"} the rules of ${check.device_name}`}
        >
          {open ? "Hide" : "Show"}
        </Button>
      </h3>
      {open && <RuleTable rules={rules} label={`Rules of ${check.device_name}`} />}
    </section>
  );
}
