import { useState } from "react";
import { Link } from "react-router";

import type { Schemas } from "../../api/client";
import { useAddDevice, useAddOwnDevice } from "../../api/household";
import { likeness } from "../../domain/fuzzy";
import { Button } from "../../ui/button";
import { Dialog } from "../../ui/dialog";
import { Field } from "../../ui/field";
import { Notice } from "../../ui/notice";
import { Tabs } from "../../ui/tabs";
import { FindNearest } from "./find-nearest";
import { ProfileList } from "../../parts/profile-list";

type Profile = Schemas["Profile"];

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  catalogue: Profile[];
}

export function AddDevice({ open, onOpenChange, catalogue }: Props) {
  const [chosen, setChosen] = useState<Profile | null>(null);
  const [name, setName] = useState("");
  const [way, setWay] = useState("list");
  const [typed, setTyped] = useState("");
  const add = useAddDevice();
  const own = useAddOwnDevice();
  const done = () => {
    setChosen(null);
    setName("");
    setTyped("");
    onOpenChange(false);
  };
  const submit = () => chosen && add.mutate({ profile_id: chosen.id, name }, { onSuccess: done });
  const rows = catalogue
    .map((profile) => ({ profile, score: likeness(typed, `${profile.name} ${profile.kind} ${profile.year ?? "generic"} ${profile.about}`) }))
    .filter(({ score }) => score > 0)
    .sort((a, b) => b.score - a.score);
  return (
    <Dialog
      open={open}
      onOpenChange={onOpenChange}
      title="Add a device"
      wide
      about="Choose what it is, or the nearest to it; the generic ones play nearly everywhere."
      footer={
        <>
          <input
            aria-label="Its name at home"
            placeholder="Its name at home"
            value={name}
            onChange={(event) => setName(event.target.value)}
            className="mr-auto h-9 min-w-0 flex-1 rounded-lg border border-hairline bg-raised px-3 placeholder:text-quiet"
          />
          <Button onClick={() => onOpenChange(false)}>Cancel</Button>
          {chosen && (
            <Button asChild>
              <Link to={`/household/new?from=${chosen.id}`}>Change it first</Link>
            </Button>
          )}
          <Button look="primary" disabled={!chosen || add.isPending} onClick={submit}>
            {chosen ? `Add ${chosen.name}` : "Choose one first"}
          </Button>
        </>
      }
    >
      {add.isError && <Notice look="fault">{add.error.message}</Notice>}
      <Tabs
        value={way}
        onChange={setWay}
        tabs={[
          {
            value: "list",
            text: `From the list (${catalogue.length})`,
            content: (
              <>
                <Field hideLabel label="Find a device" placeholder="Name, kind or year; typing errors are forgiven" value={typed} onChange={setTyped} className="mb-2" />
                {rows.length ? <ProfileList label="Catalogue" rows={rows} chosen={chosen} onChoose={setChosen} /> : <p className="py-4 text-quiet">No device is called like that. “It isn’t there” finds the nearest.</p>}
              </>
            ),
          },
          { value: "nearest", text: "It isn’t there", content: <FindNearest chosen={chosen} onChoose={setChosen} /> },
          {
            value: "file",
            text: "From a file",
            content: (
              <>
                <p className="mb-2 text-quiet">A profile that somebody gave you, as the Household saves them (.json).</p>
                <input
                  type="file"
                  accept=".json,application/json"
                  aria-label="Profile file"
                  onChange={(event) => {
                    const file = event.target.files?.[0];
                    if (file) void file.text().then((document) => own.mutate({ document, name }, { onSuccess: done }));
                    event.target.value = "";
                  }}
                />
                {own.isError && (
                  <div className="mt-3">
                    <Notice look="fault">{own.error.message}</Notice>
                  </div>
                )}
              </>
            ),
          },
        ]}
      />
    </Dialog>
  );
}
