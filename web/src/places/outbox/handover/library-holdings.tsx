import { TriangleAlert } from "lucide-react";
import { useState } from "react";

import type { Schemas } from "../../../api/client";
import { useLibrary, useLookThroughLibrary } from "../../../api/library";
import { momentText } from "../../../domain/moments";
import { sizeText } from "../../../domain/sizes";
import { Bar } from "../../../ui/bar";
import { Button } from "../../../ui/button";
import { Notice } from "../../../ui/notice";
import { Select } from "../../../ui/select";
import { NotYet } from "../../../ui/states";

type Library = Schemas["Library"];

const ALL = "all";
const DOUBLE = "double";

/** What is in the library already: on which devices it plays as it is, and what is there twice. */
export function LibraryHoldings() {
  const [chosen, setChosen] = useState(ALL);
  const deviceId = chosen === ALL || chosen === DOUBLE ? undefined : Number(chosen);
  const query = useLibrary(chosen === ALL || chosen === DOUBLE ? chosen : "not_on", deviceId);
  const look = useLookThroughLibrary();
  const library = query.data;
  if (!library) return <NotYet query={query} what="the library" />;
  return (
    <section aria-label="What is in it" className="mt-6">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
        <h3 className="text-[15px]">What is in it</h3>
        <span className="min-w-0 flex-1 text-quiet">{saidOf(library)}</span>
        {library.looking ? (
          <Button size="small" onClick={() => look.mutate(false)}>
            Stop looking
          </Button>
        ) : (
          <Button size="small" disabled={!library.here || look.isPending} onClick={() => look.mutate(true)}>
            {library.count ? "Look again" : "Look through it"}
          </Button>
        )}
      </div>
      {library.problem && <Notice look="fault">{library.problem}</Notice>}
      {look.isError && <Notice look="fault">{look.error.message}</Notice>}
      {library.looking && (
        <div className="mt-2" role="status">
          <Bar
            fraction={library.total ? library.done / library.total : 0}
            label="Looking through the library"
          />
          <p className="mt-1 text-[13px] text-quiet">
            {library.total ? `At file ${library.done} of ${library.total}` : "Counting its files"}
          </p>
        </div>
      )}
      {library.count > 0 && !library.looking && (
        <>
          <div className="mt-2">
            <Select label="Which files" value={chosen} onChange={setChosen} choices={choicesOf(library)} />
          </div>
          {library.files.length ? (
            <ul aria-label="Files in the library" className="mt-2 border-t border-hairline">
              {library.files.map((file) => (
                <Row key={file.path} file={file} />
              ))}
            </ul>
          ) : (
            <p className="mt-2 text-quiet">None of them.</p>
          )}
          {library.more > 0 && (
            <p className="mt-2 text-[13px] text-quiet">{library.more} more are not listed.</p>
          )}
        </>
      )}
    </section>
  );
}

function Row({ file }: { file: Schemas["LibraryFile"] }) {
  return (
    <li className="border-b border-hairline py-2">
      <div className="flex items-baseline gap-3">
        <span className="min-w-0 flex-1 truncate font-semibold" title={file.path}>
          {file.path}
        </span>
        <span className="shrink-0 text-quiet">{sizeText(file.size_bytes)}</span>
      </div>
      <p className="text-[13px] text-quiet">{file.about || file.trouble}</p>
      {file.not_on.length > 0 && (
        <p className="text-[13px] text-quiet">Not as it is on {byReason(file.not_on).join("; ")}</p>
      )}
      <Others paths={file.twice} said="The same, byte for byte:" />
      <Others paths={file.alike} said="The same film by its name and length:" />
    </li>
  );
}

/** Devices with the same reason stand together: `Phone, Tablet (file extension)`. */
function byReason(notOn: Schemas["NotOn"][]): string[] {
  const devices = new Map<string, string[]>();
  for (const { device_name, why } of notOn) devices.set(why, [...(devices.get(why) ?? []), device_name]);
  return [...devices].map(([why, names]) => `${names.join(", ")} (${why})`);
}

function Others({ paths, said }: { paths: string[]; said: string }) {
  if (!paths.length) return null;
  return (
    <p className="flex items-baseline gap-1.5 text-[13px]">
      <TriangleAlert size={13} className="translate-y-0.5 text-marigold" aria-hidden />
      <span className="min-w-0">
        {said} <span className="font-semibold">{paths.join(", ")}</span>
      </span>
    </p>
  );
}

function saidOf({ count, size_bytes, looked, here, looking }: Library): string {
  if (!here) return "It is not there now.";
  if (looking) return "";
  if (!count)
    return looked
      ? "No films and no sound."
      : "Nobody has looked yet: which of it plays on which device, and what is there twice.";
  const files = `${count} ${count === 1 ? "file" : "files"}, ${sizeText(size_bytes)}`;
  if (!looked) return `${files} so far`;
  return `${files}, as of ${momentText(looked)}`;
}

function choicesOf({ count, double, devices }: Library) {
  return [
    { value: ALL, text: `all ${count}` },
    ...(double ? [{ value: DOUBLE, text: `${double} that are there twice` }] : []),
    ...devices
      .filter(({ plays }) => plays < count)
      .map(({ device_id, device_name, plays }) => ({
        value: String(device_id),
        text: `${count - plays} that ${device_name} does not play as they are`,
      })),
  ];
}
