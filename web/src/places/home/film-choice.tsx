import { useState } from "react";

import type { Schemas } from "../../api/client";
import { ChooseFolder } from "../../parts/choose-folder";
import { Button } from "../../ui/button";
import { ChoiceList, ChoiceRow } from "./choice-row";
import { folderName } from "./place-text";

type Proposal = Schemas["Proposal"];

interface Props {
  proposals: Proposal[];
  chosen: ReadonlySet<string>;
  onChange: (path: string, on: boolean) => void;
}

function countText({ found, more }: Proposal): string {
  return `${more ? "more than " : ""}${found} ${found === 1 ? "film or disc" : "films and discs"}`;
}

/** Folders in which films seem to lie, and any other. */
export function FilmChoice({ proposals, chosen, onChange }: Props) {
  const [choosing, setChoosing] = useState(false);
  const own = [...chosen].filter((path) => !proposals.some((proposal) => proposal.path === path));
  return (
    <>
      {proposals.length + own.length > 0 ? (
        <ChoiceList label="Folders of films">
          {proposals.map((proposal) => (
            <ChoiceRow
              key={proposal.path}
              kind="checkbox"
              checked={chosen.has(proposal.path)}
              onChange={(on) => onChange(proposal.path, on)}
              name={proposal.name}
              detail={proposal.mounted ? `${proposal.path} · mounted` : proposal.path}
              aside={countText(proposal)}
            />
          ))}
          {own.map((path) => (
            <ChoiceRow
              key={path}
              kind="checkbox"
              checked
              onChange={(on) => onChange(path, on)}
              name={folderName(path)}
              detail={path}
              aside="chosen by you"
            />
          ))}
        </ChoiceList>
      ) : (
        <p className="text-quiet">
          No films were found in the usual places. Choose the folder that they lie in, or put discs onto the
          Shelf one by one later.
        </p>
      )}
      <Button className="mt-3" onClick={() => setChoosing(true)}>
        Another folder …
      </Button>
      {choosing && (
        <ChooseFolder
          title="A folder of films"
          about="Everything in it comes onto the Shelf: discs, images, films and series. Nothing in it is changed."
          onClose={() => setChoosing(false)}
          onChoose={(path) => onChange(path, true)}
        />
      )}
    </>
  );
}
