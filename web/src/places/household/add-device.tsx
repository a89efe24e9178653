import { useState } from "react";

import type { Schemas } from "../../api/client";
import { useAddDevice } from "../../api/queries";
import { DeviceIcon } from "../../parts/device-icon";
import { Button } from "../../ui/button";
import { Dialog } from "../../ui/dialog";
import { Notice } from "../../ui/notice";

type Profile = Schemas["Profile"];

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  catalogue: Profile[];
}

export function AddDevice({ open, onOpenChange, catalogue }: Props) {
  const [chosen, setChosen] = useState<Profile | null>(null);
  const [name, setName] = useState("");
  const add = useAddDevice();
  const submit = () =>
    chosen &&
    add.mutate(
      { profile_id: chosen.id, name },
      {
        onSuccess: () => {
          setChosen(null);
          setName("");
          onOpenChange(false);
        },
      },
    );
  return (
    <Dialog
      open={open}
      onOpenChange={onOpenChange}
      title="Add a device"
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
          <Button look="primary" disabled={!chosen || add.isPending} onClick={submit}>
            {chosen ? `Add ${chosen.name}` : "Choose one first"}
          </Button>
        </>
      }
    >
      {add.isError && <Notice look="fault">{add.error.message}</Notice>}
      <ul aria-label="Catalogue" className="divide-y divide-hairline border-y border-hairline">
        {catalogue.map((profile) => (
          <li key={profile.id}>
            <button
              type="button"
              aria-pressed={chosen?.id === profile.id}
              onClick={() => setChosen(profile)}
              className="flex w-full items-start gap-3 px-2 py-2 text-left hover:bg-sunk aria-pressed:bg-sand"
            >
              <DeviceIcon kind={profile.kind} />
              <span className="min-w-0 flex-1">
                <span className="font-semibold">{profile.name}</span> <span className="text-quiet">{profile.year ?? "generic"}</span>
                <span className="block text-[13px] text-quiet">{profile.about}</span>
              </span>
              <span className="shrink-0 text-[13px] text-quiet">{profile.summary}</span>
            </button>
          </li>
        ))}
      </ul>
    </Dialog>
  );
}
