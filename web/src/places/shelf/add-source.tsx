import { ArrowUp, Disc3, Folder, FileVideo2, HardDrive } from "lucide-react";
import { useState } from "react";

import type { Schemas } from "../../api/client";
import { useAddSource, useFolder } from "../../api/queries";
import { sizeText } from "../../domain/sizes";
import { Button } from "../../ui/button";
import { Dialog } from "../../ui/dialog";
import { Notice } from "../../ui/notice";
import { Failed, Loading } from "../../ui/states";

type Entry = Schemas["Entry"];

const ICONS = { folder: Folder, disc: Disc3, image: HardDrive, file: FileVideo2 } as const;
const KINDS = { folder: "", disc: "disc folder", image: "disc image", file: "media file" } as const;

/** The server's folder chooser: only what lies in the media folders is shown. */
export function AddSource({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const [path, setPath] = useState<string | null>(null);
  const [chosen, setChosen] = useState<Entry | null>(null);
  const add = useAddSource();
  const go = (next: string | null) => {
    setPath(next);
    setChosen(null);
    add.reset();
  };
  const submit = (entry: { path: string }) =>
    add.mutate(entry.path, {
      onSuccess: () => {
        onOpenChange(false);
        go(null);
      },
    });
  return (
    <Dialog
      open={open}
      onOpenChange={onOpenChange}
      title="Add a source"
      about="A disc folder, a disc image or a media file from the media folders."
      footer={
        <>
          <Button onClick={() => onOpenChange(false)}>Cancel</Button>
          <Button look="primary" disabled={!chosen || add.isPending} onClick={() => chosen && submit(chosen)}>
            {chosen ? `Add ${chosen.name}` : "Choose one first"}
          </Button>
        </>
      }
    >
      {open && <Listing path={path} chosen={chosen} onChoose={setChosen} onGo={go} />}
      {add.isError && <Notice look="fault">{add.error.message}</Notice>}
    </Dialog>
  );
}

interface ListingProps {
  path: string | null;
  chosen: Entry | null;
  onChoose: (entry: Entry) => void;
  onGo: (path: string | null) => void;
}

function Listing({ path, chosen, onChoose, onGo }: ListingProps) {
  const folder = useFolder(path);
  if (folder.isPending) return <Loading what="the folder" />;
  if (folder.isError) return <Failed error={folder.error} onRetry={() => void folder.refetch()} />;
  const { entries, parent } = folder.data;
  return (
    <>
      <p className="mb-2 flex items-center gap-2 text-[13px] text-quiet">
        {parent !== null && (
          <Button size="small" onClick={() => onGo(parent)}>
            <ArrowUp size={14} /> Up
          </Button>
        )}
        <span className="truncate" title={folder.data.path ?? ""}>
          {folder.data.path ?? "Media folders"}
        </span>
      </p>
      <ul aria-label="Folder" className="divide-y divide-hairline border-y border-hairline">
        {entries.map((entry) => (
          <EntryRow key={entry.path} entry={entry} chosen={chosen?.path === entry.path} onChoose={() => onChoose(entry)} onGo={() => onGo(entry.path)} />
        ))}
        {!entries.length && <li className="py-6 text-center text-quiet">Nothing here that Rheon reads.</li>}
      </ul>
    </>
  );
}

function EntryRow({ entry, chosen, onChoose, onGo }: { entry: Entry; chosen: boolean; onChoose: () => void; onGo: () => void }) {
  const Icon = ICONS[entry.kind];
  return (
    <li className={chosen ? "bg-sand" : ""}>
      <div className="flex items-center">
        <button
          type="button"
          aria-pressed={entry.kind === "folder" ? undefined : chosen}
          onClick={entry.kind === "folder" ? onGo : onChoose}
          className="flex min-w-0 flex-1 items-center gap-3 px-2 py-2 text-left hover:bg-sunk"
        >
          <Icon size={17} className="shrink-0 text-river" aria-hidden />
          <span className="min-w-0 flex-1 truncate font-medium">{entry.name}</span>
          <span className="text-quiet">{KINDS[entry.kind]}</span>
          <span className="w-20 text-right text-quiet">{entry.size_bytes ? sizeText(entry.size_bytes) : ""}</span>
        </button>
        {entry.kind === "folder" && (
          <Button size="small" look="link" className="mx-2" onClick={onChoose} aria-label={`Choose the folder ${entry.name} itself`}>
            Choose
          </Button>
        )}
      </div>
    </li>
  );
}
