import type { Schemas } from "../api/client";
import { DeviceIcon } from "./device-icon";

type Profile = Schemas["Profile"];

interface Props {
  label: string;
  rows: { profile: Profile; notes?: string[] }[];
  chosen: Profile | null;
  onChoose: (profile: Profile) => void;
}

/** Profiles to choose one of. */
export function ProfileList({ label, rows, chosen, onChoose }: Props) {
  return (
    <ul aria-label={label} className="divide-y divide-hairline border-y border-hairline">
      {rows.map(({ profile, notes }) => (
        <li key={profile.id}>
          <button
            type="button"
            aria-pressed={chosen?.id === profile.id}
            onClick={() => onChoose(profile)}
            className="flex w-full items-start gap-3 px-2 py-2 text-left hover:bg-sunk aria-pressed:bg-sand"
          >
            <DeviceIcon kind={profile.kind} />
            <span className="min-w-0 flex-1">
              <span className="font-semibold">{profile.name}</span>
              <span className="block text-[13px] text-quiet">{profile.about}</span>
              {notes?.map((note) => (
                <span key={note} className="block text-[13px]">
                  {note.charAt(0).toUpperCase() + note.slice(1)}.
                </span>
              ))}
            </span>
            <span className="shrink-0 text-[13px] text-quiet">{profile.summary}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}
