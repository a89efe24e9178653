import { Usb } from "lucide-react";
import { useState } from "react";

import type { Schemas } from "../../../api/client";
import { useEject, usePlug, useSetStorage } from "../../../api/handovers";
import { sizeText } from "../../../domain/sizes";
import { ChooseFolder } from "../../../parts/choose-folder";
import { Button } from "../../../ui/button";
import { Field } from "../../../ui/field";
import { Menu } from "../../../ui/menu";
import { Notice } from "../../../ui/notice";
import { Popover } from "../../../ui/popover";
import { Select } from "../../../ui/select";
import { LIBRARY, systemName } from "./files";

type Device = Schemas["DeviceFiles"];
type All = Schemas["Handovers"];

const describe = (volume: Schemas["Volume"]): string => {
  const free = volume.free_bytes === null ? "" : `, ${sizeText(volume.free_bytes)} free`;
  return `${volume.label} (${systemName(volume.file_system)}${free})`;
};

/** Where a device's files go: which stick, card, player or network folder, and the folder on it. */
export function StorageChoice({ device, all }: { device: Device; all: All }) {
  const { storage } = device;
  const set = useSetStorage(device.device_id);
  const eject = useEject();
  const away = storage !== null && !storage.here;
  const choices = all.volumes
    .filter(({ writable }) => writable)
    .map((volume) => ({ value: volume.id, text: describe(volume) }));
  if (storage && !choices.some(({ value }) => value === storage.volume_id))
    choices.unshift({
      value: storage.volume_id,
      text: away ? `${storage.label} (not there now)` : `the folder ${storage.label}`,
    });
  const fault = set.error ?? eject.error;
  return (
    <section aria-label="Storage">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
        <Usb size={17} className="text-river" aria-hidden />
        {choices.length > 0 ? (
          <>
            <span>Its files go to</span>
            <Select
              label="Where its files go"
              value={storage?.volume_id ?? ""}
              placeholder={device.device_id === LIBRARY ? "choose a disk" : "choose a stick, card or player"}
              onChange={(id) => set.mutate({ volume_id: id, folder: storage?.folder ?? "" })}
              choices={choices}
            />
          </>
        ) : (
          <span className="min-w-0 flex-1 text-quiet">
            Nothing is plugged in. Plug in a stick, a card or the player itself; it shows here within seconds.
          </span>
        )}
        {storage && <FolderOfStorage key={storage.folder} device={device} storage={storage} />}
        <span className="ml-auto flex items-center gap-2">
          <FolderOfMachine device={device} />
          {storage?.can_be_ejected && (
            <Button
              size="small"
              disabled={eject.isPending}
              onClick={() => eject.mutate(storage.volume_id)}
              aria-label={`Eject ${storage.label}`}
            >
              {eject.isPending ? "Writing what is left …" : "Eject"}
            </Button>
          )}
          <StandIns all={all} />
        </span>
      </div>
      {fault && <Notice look="fault">{fault.message}</Notice>}
      {eject.isSuccess && away && (
        <Notice look="reason">{`Everything is written. ${storage.label} can be taken out.`}</Notice>
      )}
    </section>
  );
}

/** A folder of this machine, or of another one that is mounted somewhere else than usual. */
function FolderOfMachine({ device }: { device: Device }) {
  const set = useSetStorage(device.device_id);
  const [choosing, setChoosing] = useState(false);
  return (
    <>
      <Button size="small" onClick={() => setChoosing(true)}>
        A folder …
      </Button>
      {set.isError && <Notice look="fault">{set.error.message}</Notice>}
      {choosing && (
        <ChooseFolder
          title={
            device.device_id === LIBRARY
              ? "Where the library is"
              : `Where the files for ${device.device_name} go`
          }
          about="A folder of this machine, such as a library that everything goes into. What is in it stays as it is."
          onClose={() => setChoosing(false)}
          onChoose={(path) => set.mutate({ volume_id: path, folder: "" })}
        />
      )}
    </>
  );
}

function FolderOfStorage({ device, storage }: { device: Device; storage: Schemas["Storage"] }) {
  const set = useSetStorage(device.device_id);
  const [open, setOpen] = useState(false);
  const [folder, setFolder] = useState(storage.folder);
  const keep = () =>
    set.mutate({ volume_id: storage.volume_id, folder }, { onSuccess: () => setOpen(false) });
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label="Folder on it"
      trigger={
        <Button size="text" look="link" disabled={!storage.here}>
          {storage.folder ? `into the folder ${storage.folder}` : "into its top folder"}
        </Button>
      }
    >
      <Field
        label="Folder on it"
        value={folder}
        onChange={setFolder}
        onEnter={keep}
        placeholder="such as VIDEO"
      />
      <p className="my-2 text-[13px] text-quiet">
        Some players look in one folder only; its manual says which. What is copied already stays where it is.
      </p>
      {set.isError && <Notice look="fault">{set.error.message}</Notice>}
      <Button size="small" look="primary" onClick={keep} disabled={set.isPending}>
        Use it
      </Button>
    </Popover>
  );
}

/** Stand-ins have no socket: they are plugged in and pulled out from here. */
function StandIns({ all }: { all: All }) {
  const plug = usePlug();
  if (!all.unplugged.length && !all.plugged.length) return null;
  return (
    <Menu
      label="Stand-in sticks"
      entries={[
        ...all.unplugged.map((label) => ({
          text: `Plug ${label} in`,
          onChoose: () => plug.mutate({ label, verb: "in" }),
        })),
        ...all.plugged.map((label) => ({
          text: `Pull ${label} out`,
          note: "Without a word before it, as people do",
          onChoose: () => plug.mutate({ label, verb: "out" }),
        })),
      ]}
    >
      <Button size="small">Stand-in sticks</Button>
    </Menu>
  );
}
