import { useState } from "react";

import { useAddSource } from "../../api/queries";
import { FolderList } from "../../parts/folder-list";
import { Button } from "../../ui/button";
import { Dialog } from "../../ui/dialog";
import { Notice } from "../../ui/notice";

/** The server's folder chooser: only what lies in the media folders is shown. */
export function AddSource({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const [path, setPath] = useState<string | null>(null);
  const [chosen, setChosen] = useState<{ name: string; path: string } | null>(null);
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
      {open && <FolderList path={path} chosen={chosen?.path ?? null} onChoose={setChosen} onGo={go} />}
      {add.isError && <Notice look="fault">{add.error.message}</Notice>}
    </Dialog>
  );
}
