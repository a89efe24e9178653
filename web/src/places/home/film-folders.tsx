import { useState } from "react";

import type { Schemas } from "../../api/client";
import { useAddFilmFolder, useFilmFolders, useForgetFilmFolder } from "../../api/home";
import { ChooseFolder } from "../../parts/choose-folder";
import { Button } from "../../ui/button";
import { Notice } from "../../ui/notice";
import { Failed, Loading } from "../../ui/states";
import { ChoiceList } from "./choice-row";
import { folderName } from "./place-text";

/** The folders of films, to be gone through again, added and let go. */
export function FilmFolders() {
  const films = useFilmFolders();
  const add = useAddFilmFolder();
  const [choosing, setChoosing] = useState(false);
  if (films.isPending) return <Loading what="the folders" />;
  if (films.isError) return <Failed error={films.error} onRetry={() => void films.refetch()} />;
  const { folders, proposals } = films.data;
  return (
    <>
      {folders.length > 0 ? (
        <ChoiceList label="Folders of films">
          {folders.map((folder) => (
            <FolderRow key={folder.id} folder={folder} onAgain={() => add.mutate(folder.path)} />
          ))}
        </ChoiceList>
      ) : (
        <p className="text-quiet">None: what is on the Shelf was put there piece by piece.</p>
      )}
      {add.isError && (
        <div className="mt-3">
          <Notice look="fault">{add.error.message}</Notice>
        </div>
      )}
      <div className="mt-3 flex flex-wrap gap-3">
        <Button onClick={() => setChoosing(true)}>Add a folder …</Button>
        {proposals.map((proposal) => (
          <Button
            key={proposal.path}
            title={proposal.path}
            className="max-w-full"
            onClick={() => add.mutate(proposal.path)}
          >
            <span className="truncate">Add {proposal.name}</span>
            <span className="text-quiet">
              {proposal.more ? "over " : ""}
              {proposal.found}
            </span>
          </Button>
        ))}
      </div>
      {choosing && (
        <ChooseFolder
          title="A folder of films"
          about="Everything in it comes onto the Shelf: discs, images, films and series. Nothing in it is changed."
          onClose={() => setChoosing(false)}
          onChoose={(path) => add.mutate(path)}
        />
      )}
    </>
  );
}

function stateText(folder: Schemas["FilmFolder"]): string {
  if (!folder.present) return "not there just now";
  if (folder.looking) return "being gone through …";
  return `${folder.found} ${folder.found === 1 ? "film or disc" : "films and discs"}`;
}

function FolderRow({ folder, onAgain }: { folder: Schemas["FilmFolder"]; onAgain: () => void }) {
  const forget = useForgetFilmFolder();
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1 px-3 py-2.5">
      <span className="min-w-[180px] flex-1">
        <span className="block truncate font-semibold">{folderName(folder.path)}</span>
        <span className="block truncate text-[12.5px] text-quiet" title={folder.path}>
          {folder.path}
        </span>
      </span>
      <span className={folder.present ? "text-quiet" : "text-madder"}>{stateText(folder)}</span>
      <Button
        size="small"
        disabled={folder.looking || !folder.present}
        onClick={onAgain}
        aria-label={`Look through ${folder.path} again`}
      >
        Look again
      </Button>
      <Button
        size="small"
        look="quiet"
        onClick={() => forget.mutate(folder.id)}
        title="Its films stay on the Shelf"
        aria-label={`Forget ${folder.path}`}
      >
        Forget
      </Button>
    </li>
  );
}
