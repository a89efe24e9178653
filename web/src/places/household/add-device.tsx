import { useState } from "react";
import { Link } from "react-router";

import type { Schemas } from "../../api/client";
import { useAddDevice, useAddOwnDevice } from "../../api/household";
import { likeness } from "../../domain/fuzzy";
import { DeviceFinder } from "../../parts/device-finder";
import { answersOf, useFinder } from "../../parts/finder";
import { ProfileList } from "../../parts/profile-list";
import { Button } from "../../ui/button";
import { Dialog } from "../../ui/dialog";
import { Field } from "../../ui/field";
import { Notice } from "../../ui/notice";
import { Tabs } from "../../ui/tabs";

type Profile = Schemas["Profile"];

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  household: Schemas["Household"];
}

export function AddDevice({ open, onOpenChange, household }: Props) {
  const [name, setName] = useState("");
  const [way, setWay] = useState("find");
  const [chosen, setChosen] = useState<Profile | null>(null);
  const finding = useFinder();
  const add = useAddDevice();
  const own = useAddOwnDevice();
  const done = () => {
    finding.clear();
    setChosen(null);
    setName("");
    onOpenChange(false);
  };
  const submit = (profile: Profile, heard?: Schemas["Heard"]) =>
    add.mutate(
      { profile_id: profile.id, name, ...(heard ? answersOf(finding.finder, heard) : {}) },
      { onSuccess: done },
    );
  const act = (profile: Profile, heard?: Schemas["Heard"]) => (
    <NameIt
      profile={profile}
      name={name}
      onName={setName}
      busy={add.isPending}
      onAdd={() => submit(profile, heard)}
    />
  );
  return (
    <Dialog
      open={open}
      onOpenChange={onOpenChange}
      title="Add a device"
      wide
      about="What it plays follows from what it is and how old. Nothing has to be known of codecs."
    >
      {add.isError && (
        <div className="mb-3">
          <Notice look="fault">{add.error.message}</Notice>
        </div>
      )}
      <Tabs
        value={way}
        onChange={setWay}
        tabs={[
          {
            value: "find",
            text: "Find it",
            content: <DeviceFinder families={household.families} finding={finding} act={act} />,
          },
          {
            value: "list",
            text: `All kinds (${household.catalogue.length})`,
            content: (
              <EveryKind catalogue={household.catalogue} chosen={chosen} onChoose={setChosen} act={act} />
            ),
          },
          {
            value: "file",
            text: "From a file",
            content: (
              <FromFile
                name={name}
                onName={setName}
                error={own.error}
                onFile={(document) => own.mutate({ document, name }, { onSuccess: done })}
              />
            ),
          },
        ]}
      />
    </Dialog>
  );
}

interface NameProps {
  name: string;
  onName: (name: string) => void;
}

/** What a kind is called at home, and adding it. */
function NameIt({
  profile,
  name,
  onName,
  busy,
  onAdd,
}: NameProps & { profile: Profile; busy: boolean; onAdd: () => void }) {
  return (
    <form
      className="sticky -bottom-4 -mx-5 mt-4 -mb-4 flex flex-wrap items-end gap-3 rounded-b-card border-t border-hairline bg-raised px-5 py-3"
      onSubmit={(event) => {
        event.preventDefault();
        onAdd();
      }}
    >
      <Field
        label="Its name at home"
        value={name}
        onChange={onName}
        placeholder={profile.name.split(",")[0]}
        className="min-w-[200px] flex-1"
      />
      <Button asChild>
        <Link to={`/household/new?from=${profile.id}`}>Change it first</Link>
      </Button>
      <Button look="primary" type="submit" disabled={busy}>
        Add it
      </Button>
    </form>
  );
}

/** A profile that was saved elsewhere. */
function FromFile({
  name,
  onName,
  error,
  onFile,
}: NameProps & { error: Error | null; onFile: (text: string) => void }) {
  return (
    <>
      <p className="mb-3 text-quiet">
        A profile that somebody gave you, as the Household saves them (.json).
      </p>
      <Field
        label="Its name at home"
        value={name}
        onChange={onName}
        placeholder="as the file says"
        className="mb-3"
      />
      <input
        type="file"
        accept=".json,application/json"
        aria-label="Profile file"
        onChange={(event) => {
          void event.target.files?.[0]?.text().then(onFile);
          event.target.value = "";
        }}
      />
      {error && (
        <div className="mt-3">
          <Notice look="fault">{error.message}</Notice>
        </div>
      )}
    </>
  );
}

interface ListProps {
  catalogue: Profile[];
  chosen: Profile | null;
  onChoose: (profile: Profile) => void;
  act: (profile: Profile) => React.ReactNode;
}

/** Every kind and every standard’s point, for those who like to look through them. */
function EveryKind({ catalogue, chosen, onChoose, act }: ListProps) {
  const [typed, setTyped] = useState("");
  const rows = catalogue
    .map((profile) => ({
      profile,
      score: likeness(typed, `${profile.name} ${profile.kind} ${profile.about}`),
    }))
    .filter(({ score }) => score > 0)
    .sort((a, b) => b.score - a.score);
  return (
    <>
      <Field
        hideLabel
        label="Search the kinds"
        placeholder="Search; typing errors are forgiven"
        value={typed}
        onChange={setTyped}
        className="mb-2"
      />
      {rows.length ? (
        <ProfileList label="All kinds" rows={rows} chosen={chosen} onChoose={onChoose} />
      ) : (
        <p className="py-4 text-quiet">No kind is called like that.</p>
      )}
      {chosen && act(chosen)}
    </>
  );
}
