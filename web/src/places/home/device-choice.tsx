import { X } from "lucide-react";
import { useState } from "react";

import type { Schemas } from "../../api/client";
import { likeness } from "../../domain/fuzzy";
import { ProfileList } from "../../parts/profile-list";
import { Button } from "../../ui/button";
import { Field } from "../../ui/field";

type Profile = Schemas["Profile"];

interface Props {
  catalogue: Profile[];
  chosen: Profile[];
  onChange: (chosen: Profile[]) => void;
}

/** What people watch on; several can be chosen. */
export function DeviceChoice({ catalogue, chosen, onChange }: Props) {
  const [typed, setTyped] = useState("");
  const rows = catalogue
    .map((profile) => ({ profile, score: likeness(typed, `${profile.name} ${profile.kind} ${profile.year ?? "generic"} ${profile.about}`) }))
    .filter(({ profile, score }) => score > 0 && !chosen.includes(profile))
    // nothing typed: what fits most, before single models
    .sort((a, b) => b.score - a.score || (typed ? 0 : Number(b.profile.generic) - Number(a.profile.generic)));
  return (
    <>
      {chosen.length > 0 && (
        <ul aria-label="Chosen devices" className="mb-3 flex flex-wrap gap-2">
          {chosen.map((profile) => (
            <li key={profile.id} className="flex items-center gap-1 rounded-lg border border-mist-line bg-mist py-1 pr-1 pl-3">
              <span className="font-semibold">{profile.name}</span>
              <Button look="quiet" size="icon" className="size-6" aria-label={`Leave ${profile.name} out`} onClick={() => onChange(chosen.filter((one) => one !== profile))}>
                <X size={14} />
              </Button>
            </li>
          ))}
        </ul>
      )}
      <Field hideLabel label="Find a device" placeholder="Name, kind or year; typing errors are forgiven" value={typed} onChange={setTyped} className="mb-2" />
      <div className="max-h-[264px] overflow-y-auto [&>ul]:border-y-0 rounded-card border border-hairline bg-raised">
        {rows.length ? (
          <ProfileList label="Catalogue" rows={rows} chosen={null} onChoose={(profile) => (onChange([...chosen, profile]), setTyped(""))} />
        ) : (
          <p className="px-3 py-6 text-center text-quiet">No device is called like that. The Household finds the nearest, or asks the device itself.</p>
        )}
      </div>
    </>
  );
}
