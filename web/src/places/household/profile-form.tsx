import { useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";

import {
  useAddOwnDevice,
  useCatalogueProfile,
  useHousehold,
  useProfileCheck,
  useReplaceProfile,
} from "../../api/household";
import type { Schemas } from "../../api/client";
import { AbilityList } from "../../parts/ability-list";
import { useDebounced } from "../../parts/debounced";
import { Button } from "../../ui/button";
import { Notice } from "../../ui/notice";
import { Failed, Loading } from "../../ui/states";
import { AUDIO, CONTAINER, IDENTITY, LIMITS, SCREEN, SUBTITLE, VIDEO } from "./profile-fields";
import { entriesAt, type Entry, entryAt } from "./profile-values";
import { EntryList, FieldGroup, type Notes } from "./profile-group";

const NONE: Notes = { errors: [], warnings: [] };

/** The profile of a device of the household, to be changed. */
export function EditProfile() {
  const { deviceId } = useParams();
  const household = useHousehold();
  const replace = useReplaceProfile(Number(deviceId));
  const navigate = useNavigate();
  if (household.isPending) return <Loading what="the device" />;
  if (household.isError) return <Failed error={household.error} onRetry={() => void household.refetch()} />;
  const device = household.data.devices.find((entry) => entry.id === Number(deviceId));
  if (!device)
    return (
      <Failed
        error={new Error("This device is not in the Household any more.")}
        onRetry={() => void navigate("/household")}
      />
    );
  return (
    <ProfileForm
      key={device.id}
      title={`Profile of ${device.name}`}
      document={device.document}
      busy={replace.isPending}
      error={replace.error}
      onSave={(text) => replace.mutate(text, { onSuccess: () => void navigate("/household") })}
    />
  );
}

/** A new device that starts from one of the catalogue. */
export function NewProfile() {
  const [search] = useSearchParams();
  const from = search.get("from");
  const profile = useCatalogueProfile(from);
  const own = useAddOwnDevice();
  const navigate = useNavigate();
  if (profile.isError) return <Failed error={profile.error} onRetry={() => void profile.refetch()} />;
  if (!profile.data) return <Loading what="the profile to start from" />;
  const start: Entry = JSON.parse(profile.data.document);
  return (
    <ProfileForm
      title={`A device like ${String(start.name)}`}
      document={{ ...start, name: "", generic: false }}
      busy={own.isPending}
      error={own.error}
      onSave={(text) =>
        own.mutate({ document: text, name: "" }, { onSuccess: () => void navigate("/household") })
      }
    />
  );
}

interface FormProps {
  title: string;
  document: Entry;
  busy: boolean;
  error: Error | null;
  onSave: (text: string) => void;
}

/** The lists of a profile, each with what a new entry begins with. */
const LISTS = [
  {
    key: "containers",
    name: "Files",
    one: "a container",
    specs: CONTAINER,
    fresh: { format: "mp4", extension: "mp4" },
  },
  {
    key: "video",
    name: "Picture",
    one: "a codec",
    specs: VIDEO,
    fresh: {
      codec: "h264",
      profiles: ["baseline", "main", "high"],
      max_level: "4",
      max_width: 1920,
      max_height: 1080,
      max_frame_rate: "30",
    },
  },
  {
    key: "audio",
    name: "Sound",
    one: "a sound codec",
    specs: AUDIO,
    fresh: { codec: "aac", max_channels: 2, sample_rates: [44100, 48000] },
  },
  {
    key: "subtitles",
    name: "Subtitles",
    one: "a form",
    specs: SUBTITLE,
    fresh: { form: "text_file", format: "subrip" },
  },
];

function ProfileForm({ title, document, busy, error, onSave }: FormProps) {
  const [profile, setProfile] = useState(document);
  const text = JSON.stringify(profile);
  const check = useProfileCheck(useDebounced(text, 250));
  const notes = check.data ?? NONE;
  const part = (key: string) => entryAt(profile, key);
  const list = (key: string) => entriesAt(profile, key);
  const set = (key: string) => (value: unknown) => setProfile((old) => ({ ...old, [key]: value }));
  const setScreen = (screen: Entry) => set("screen")(Object.keys(screen).length ? screen : null);
  const shared = { notes };
  return (
    <div className="grid flex-1 grid-cols-[minmax(0,1fr)_340px] max-lg:grid-cols-1">
      <form
        className="min-w-0 px-6 pt-3 pb-8 max-md:px-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (!notes.errors.length) onSave(text);
        }}
      >
        <Link to="/household" className="text-[12px] text-quiet hover:text-ink">
          ← Household
        </Link>
        <h1 className="mb-4 text-[24px] leading-tight">{title}</h1>
        <FieldGroup specs={IDENTITY} entry={profile} onChange={setProfile} path="" label="" {...shared} />
        <h2 className="mt-6 mb-3 border-b border-hairline pb-1 text-[16px]">Screen</h2>
        <FieldGroup
          specs={SCREEN}
          entry={part("screen")}
          onChange={setScreen}
          path="screen"
          label="Screen "
          {...shared}
        />
        {LISTS.map(({ key, ...of }) => (
          <EntryList key={key} {...of} entries={list(key)} onChange={set(key)} path={key} {...shared} />
        ))}
        <h2 className="mt-6 mb-3 border-b border-hairline pb-1 text-[16px]">Limits</h2>
        <FieldGroup
          specs={LIMITS}
          entry={part("limits")}
          onChange={set("limits")}
          path="limits"
          label=""
          {...shared}
        />
        <div className="sticky bottom-0 mt-6 flex items-center justify-end gap-3 border-t border-hairline bg-ground py-3">
          {error && (
            <span role="alert" className="mr-auto text-madder">
              {error.message}
            </span>
          )}
          <Button asChild>
            <Link to="/household">Cancel</Link>
          </Button>
          <Button look="primary" type="submit" disabled={busy || notes.errors.length > 0 || check.isPending}>
            Save profile
          </Button>
        </div>
      </form>
      <Sheet notes={notes} abilities={check.data?.abilities ?? []} />
    </div>
  );
}

/** What the profile comes to in words, while it is being written. */
function Sheet({ notes, abilities }: { notes: Notes; abilities: Schemas["Ability"][] }) {
  return (
    <aside
      className="border-l border-hairline bg-raised px-5 py-4 max-lg:border-t max-lg:border-l-0"
      aria-label="What it plays"
    >
      <div className="sticky top-[76px]">
        <h2 className="text-[16px]">What it plays, in words</h2>
        {abilities.length > 0 ? (
          <AbilityList abilities={abilities} />
        ) : (
          <p className="mt-2 text-quiet">As soon as the form holds a whole profile.</p>
        )}
        <div className="mt-4 grid gap-2">
          {notes.errors.length > 0 && (
            <Notice look="fault">
              {notes.errors.length === 1 ? "One field is wrong." : `${notes.errors.length} fields are wrong.`}{" "}
              It can’t be saved yet.
            </Notice>
          )}
          {notes.warnings.length > 0 && (
            <Notice look="reason">
              {notes.warnings.length === 1 ? "One thing is odd" : `${notes.warnings.length} things are odd`};
              it can be saved all the same.
            </Notice>
          )}
        </div>
      </div>
    </aside>
  );
}
