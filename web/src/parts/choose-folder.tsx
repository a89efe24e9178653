import { useState } from "react";

import { Button } from "../ui/button";
import { Dialog } from "../ui/dialog";
import { FolderList } from "./folder-list";

interface Props {
  title: string;
  about: string;
  onClose: () => void;
  onChoose: (path: string) => void;
}

/** A folder of the server's, to choose. */
export function ChooseFolder({ title, about, onClose, onChoose }: Props) {
  const [path, setPath] = useState<string | null>(null);
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={title}
      about={about}
      footer={<Button onClick={onClose}>Cancel</Button>}
    >
      <FolderList
        path={path}
        chosen={null}
        onGo={setPath}
        onChoose={(entry) => (onChoose(entry.path), onClose())}
        foldersOnly
      />
    </Dialog>
  );
}
