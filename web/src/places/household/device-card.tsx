import { Star } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";

import { under } from "../../api/base";
import type { Schemas } from "../../api/client";
import { useChangeDevice, useStartOver, useTakeBack } from "../../api/household";
import { sizeText } from "../../domain/sizes";
import { AbilityList } from "../../parts/ability-list";
import { DeviceIcon } from "../../parts/device-icon";
import { useUndo } from "../../parts/undo";
import { Button } from "../../ui/button";
import { DeviceDialog } from "./device-dialog";
import { DeviceNews } from "./device-news";
import { EvidenceList } from "./evidence-list";
import { SurerDialog } from "./surer-dialog";
import { TechnicalTable } from "./technical-table";
import { wishesText } from "./wishes-form";

type Device = Schemas["Device"];

/** One device: whose it is, what it plays in words and how sure that is, and what would make it surer. */
export function DeviceCard({ device, members }: { device: Device; members: Schemas["Member"][] }) {
  const change = useChangeDevice(device.id);
  const [open, setOpen] = useState(false);
  const [surer, setSurer] = useState(false);
  const member = members.find((entry) => entry.id === device.member_id);
  const facts = [
    member?.name,
    wishesText(device.wishes),
    device.free_bytes !== null && `${sizeText(device.free_bytes)} free`,
    device.used && `${device.used} ${device.used === 1 ? "file" : "files"} made`,
  ];
  const doubts = device.abilities.filter(({ sure }) => sure === "doubtful").length;
  return (
    <li className="flex flex-col rounded-card border border-hairline bg-raised p-4">
      <div className="flex items-start gap-3">
        <DeviceIcon kind={device.profile.kind} size={22} />
        <div className="min-w-0 flex-1">
          <h2 className="truncate text-[17px]" title={device.name}>
            {device.name}
          </h2>
          <p className="text-quiet">{kindText(device)}</p>
        </div>
        <Button
          look="quiet"
          size="icon"
          aria-pressed={device.favourite}
          aria-label={`Favourite: ${device.name}`}
          onClick={() => change.mutate({ favourite: !device.favourite })}
        >
          <Star size={17} className={device.favourite ? "fill-marigold text-marigold" : ""} aria-hidden />
        </Button>
        <Button size="small" onClick={() => setOpen(true)} aria-label={`Wishes and space of ${device.name}`}>
          Wishes
        </Button>
      </div>
      {facts.some(Boolean) && (
        <p className="mt-2 rounded-md bg-sand px-2 py-1 text-[13px]">{facts.filter(Boolean).join(" · ")}</p>
      )}
      {device.news.length > 0 && <DeviceNews device={device} />}
      <p className="mt-2 text-[13px] text-quiet">{device.profile.about}</p>
      <AbilityList abilities={device.abilities} />
      {doubts > 0 && (
        <p className="mt-3 flex flex-wrap items-center gap-x-3 gap-y-1.5 rounded-lg bg-sand px-3 py-2 text-[13px]">
          <span className="min-w-0 flex-1">
            {doubts === 1
              ? "One thing is not sure, and is not used."
              : `${doubts} things are not sure, and are not used.`}
          </span>
          <Button size="small" onClick={() => setSurer(true)} aria-label={`Make it surer: ${device.name}`}>
            Make it surer
          </Button>
        </p>
      )}
      <TechnicalTable document={device.document} />
      {device.evidence.length > 0 && <EvidenceList evidence={device.evidence} />}
      <Acts device={device} />
      {open && <DeviceDialog device={device} members={members} onClose={() => setOpen(false)} />}
      {surer && <SurerDialog device={device} onClose={() => setSurer(false)} />}
    </li>
  );
}

/** What it is, and when it was new where its name does not say. */
function kindText({ name, profile }: Device) {
  const year = profile.year && !/\d{4}/.test(profile.name) ? String(profile.year) : "";
  return [profile.name === name ? "" : profile.name, year, profile.summary].filter(Boolean).join(" · ");
}

function Acts({ device }: { device: Device }) {
  const over = useStartOver(device.id);
  const back = useTakeBack(device.id);
  const { remove } = useUndo();
  return (
    <div className="mt-auto flex flex-wrap justify-end gap-x-3 gap-y-1 pt-3">
      {device.is_changed && (
        <Button
          look="quiet"
          size="text"
          aria-label={`Start over with ${device.name}`}
          title="Forget what was learned and written here, and take the catalogue’s word"
          disabled={over.isPending}
          onClick={() => over.mutate(undefined)}
        >
          Start over
        </Button>
      )}
      {device.can_take_back && !device.news.length && (
        <Button
          look="quiet"
          size="text"
          aria-label={`Take it back: what changed in ${device.name}`}
          disabled={back.isPending}
          onClick={() => back.mutate(undefined)}
        >
          Take it back
        </Button>
      )}
      <Button look="quiet" size="text" asChild>
        <Link to={`/household/${device.id}`} aria-label={`Edit profile of ${device.name}`}>
          Edit profile
        </Link>
      </Button>
      <Button look="quiet" size="text" asChild>
        <a
          href={under(`/api/household/devices/${device.id}/profile.json`)}
          download
          aria-label={`Save profile of ${device.name}`}
        >
          Save profile
        </a>
      </Button>
      <Button
        look="quiet"
        size="text"
        aria-label={`Remove ${device.name}`}
        onClick={() =>
          remove({ kind: "device", ids: [device.id], text: `${device.name} and its settings are removed.` })
        }
      >
        Remove
      </Button>
    </div>
  );
}
