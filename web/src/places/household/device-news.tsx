import type { Schemas } from "../../api/client";
import { useMarkSeen, useTakeBack } from "../../api/household";
import { Button } from "../../ui/button";

const WORDS: Record<Schemas["Change"]["what"], string> = {
  new: "new",
  gone: "gone",
  changed: "changed",
  kept: "kept as yours",
};

/** What a newer catalogue changed in a device, until somebody has seen it. */
export function DeviceNews({ device }: { device: Schemas["Device"] }) {
  const seen = useMarkSeen(device.id);
  const back = useTakeBack(device.id);
  return (
    <section
      aria-label={`News of ${device.name}`}
      className="mt-2 rounded-lg border border-mist-line bg-mist px-3 py-2 text-[13px]"
    >
      <p className="font-semibold">The catalogue knows more of such devices now</p>
      <ul className="mt-1">
        {device.news.map((entry) => (
          <li key={entry.what + entry.text} className="grid grid-cols-[92px_1fr] gap-x-2 py-0.5">
            <span className="text-quiet">{WORDS[entry.what]}</span>
            <span>{entry.text}</span>
          </li>
        ))}
      </ul>
      <div className="mt-2 flex gap-4">
        <Button size="small" disabled={seen.isPending} onClick={() => seen.mutate(undefined)}>
          Seen
        </Button>
        {device.can_take_back && (
          <Button size="text" look="quiet" disabled={back.isPending} onClick={() => back.mutate(undefined)}>
            Leave it as it was
          </Button>
        )}
      </div>
    </section>
  );
}
