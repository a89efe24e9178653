import { ArrowUp, Disc3, FileVideo2, Folder, HardDrive } from "lucide-react";

import type { Schemas } from "../api/client";
import { useFolder } from "../api/queries";
import { sizeText } from "../domain/sizes";
import { Button } from "../ui/button";
import { Failed, Loading } from "../ui/states";

type Entry = Schemas["Entry"];

const ICONS = { folder: Folder, disc: Disc3, image: HardDrive, file: FileVideo2 } as const;
const KINDS = { folder: "", disc: "disc folder", image: "disc image", file: "media file" } as const;

interface Props {
  path: string | null;
  chosen: string | null;
  onChoose: (entry: { name: string; path: string }) => void;
  onGo: (path: string | null) => void;
  /** Only folders are wanted, and the one that is open can be chosen itself. */
  foldersOnly?: boolean;
}

/** The server's folders, one at a time; only what lies in those that the settings allow is shown. */
export function FolderList({ path, chosen, onChoose, onGo, foldersOnly = false }: Props) {
  const folder = useFolder(path);
  if (folder.isPending) return <Loading what="the folder" />;
  if (folder.isError) return <Failed error={folder.error} onRetry={() => void folder.refetch()} />;
  const { parent, path: here } = folder.data;
  const entries = folder.data.entries.filter((entry) => !foldersOnly || entry.kind === "folder");
  const hidden = folder.data.entries.length - entries.length;
  return (
    <>
      <p className="mb-2 flex items-center gap-2 text-[13px] text-quiet">
        {(parent !== null || (foldersOnly && here !== null && path !== null)) && (
          <Button size="small" onClick={() => onGo(parent)}>
            <ArrowUp size={14} /> Up
          </Button>
        )}
        <span className="min-w-0 flex-1 truncate" title={here ?? ""}>
          {here ?? "Media folders"}
        </span>
        {foldersOnly && here !== null && (
          <Button
            size="small"
            look="link"
            onClick={() => onChoose({ name: here.split("/").at(-1) || here, path: here })}
          >
            Choose this one
          </Button>
        )}
      </p>
      <ul aria-label="Folder" className="divide-y divide-hairline border-y border-hairline">
        {entries.map((entry) => (
          <EntryRow
            key={entry.path}
            entry={entry}
            chosen={chosen === entry.path}
            onChoose={() => onChoose(entry)}
            onGo={() => onGo(entry.path)}
          />
        ))}
        {!entries.length && (
          <li className="py-6 text-center text-quiet">
            {foldersOnly
              ? `No further folders in here${hidden ? `, but ${hidden} ${hidden === 1 ? "disc or file" : "discs and files"}` : ""}.`
              : "Nothing here that Rheon reads."}
          </li>
        )}
      </ul>
    </>
  );
}

function EntryRow({
  entry,
  chosen,
  onChoose,
  onGo,
}: {
  entry: Entry;
  chosen: boolean;
  onChoose: () => void;
  onGo: () => void;
}) {
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
          <span className="w-20 text-right text-quiet">
            {entry.size_bytes ? sizeText(entry.size_bytes) : ""}
          </span>
        </button>
        {entry.kind === "folder" && (
          <Button
            size="small"
            look="link"
            className="mx-2"
            onClick={onChoose}
            aria-label={`Choose the folder ${entry.name} itself`}
          >
            Choose
          </Button>
        )}
      </div>
    </li>
  );
}
