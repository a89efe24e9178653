import { useState } from "react";

import { useUpdateFiles, useOutdatedFiles } from "../../../api/tags";
import { counted } from "../../../domain/counts";
import { Button } from "../../../ui/button";
import { Checkbox } from "../../../ui/checkbox";
import { Popover } from "../../../ui/popover";

const SHOWN = 6;

/** Files that were made before their titles were called as they are now, and bringing them up to it. */
export function OutdatedFiles({ titles }: { titles: readonly number[] }) {
  const outdated = useOutdatedFiles(titles);
  const updateFiles = useUpdateFiles();
  const [open, setOpen] = useState(false);
  const [rename, setRename] = useState(true);
  const files = outdated.data?.files ?? [];
  const writing = outdated.data?.writing ?? 0;
  if (writing)
    return (
      <span role="status" className="text-[13px] text-quiet">
        Writing into {counted(writing, "file")} …
      </span>
    );
  if (!files.length) return null;
  const it = files.length === 1 ? "it" : "them";
  const renamed = files.filter(({ file_name, becomes }) => file_name !== becomes);
  const shown = rename && renamed.length ? renamed : files;
  const error = updateFiles.error?.message ?? files.find((file) => file.error)?.error;
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label="Files made before"
      trigger={<Button look="accent">{counted(files.length, "file")} made before …</Button>}
    >
      <div className="grid gap-2.5">
        <p>
          {files.length === 1
            ? "One file that was made has other names or tags in it."
            : `${files.length} files that were made have other names or tags in them.`}
        </p>
        <ul className="grid gap-1 text-[12.5px] text-quiet">
          {shown.slice(0, SHOWN).map((file) => (
            <li key={file.output_id} className="[overflow-wrap:anywhere]">
              {file.file_name}
              {shown === renamed && ` → ${file.becomes}`}
            </li>
          ))}
          {shown.length > SHOWN && <li>and {counted(shown.length - SHOWN, "more file")}</li>}
        </ul>
        {renamed.length > 0 && (
          <label className="inline-flex items-center gap-2.5">
            <Checkbox label="Call them by it too" checked={rename} onChange={setRename} />
            Call {it} by it too
          </label>
        )}
        {error && (
          <p role="alert" className="text-madder">
            {error}
          </p>
        )}
        <Button
          look="primary"
          disabled={updateFiles.isPending}
          onClick={() => updateFiles.mutate({ titles, rename }, { onSuccess: () => setOpen(false) })}
        >
          Write the new ones into {it}
        </Button>
      </div>
    </Popover>
  );
}
