import { useState } from "react";

import type { Schemas } from "../../api/client";
import { ChooseFolder } from "../../parts/choose-folder";
import { Button } from "../../ui/button";
import { Notice } from "../../ui/notice";
import { ChoiceList, ChoiceRow } from "./choice-row";
import { folderName, placeText, placeWarning } from "./place-text";

type Place = Schemas["Place"];

interface Props {
  /** Where files go now, and where else they could. */
  places: Place[];
  chosen: string;
  onChange: (path: string) => void;
}

/** Where files are put, with what each place has room for. */
export function OutputChoice({ places, chosen, onChange }: Props) {
  const [choosing, setChoosing] = useState(false);
  const known = places.find((place) => place.path === chosen);
  const warning = known ? placeWarning(known) : "";
  return (
    <>
      <ChoiceList label="Folders for files">
        {places.map((place) => (
          <ChoiceRow
            key={place.path}
            kind="radio"
            checked={place.path === chosen}
            disabled={!place.writable}
            onChange={(on) => on && onChange(place.path)}
            name={folderName(place.path)}
            detail={place.exists ? place.path : `${place.path} · will be made`}
            aside={placeText(place)}
          />
        ))}
        {!known && (
          <ChoiceRow
            kind="radio"
            checked
            onChange={() => undefined}
            name={folderName(chosen)}
            detail={chosen}
            aside="chosen by you"
          />
        )}
      </ChoiceList>
      {warning && (
        <div className="mt-3">
          <Notice look="reason">{warning}</Notice>
        </div>
      )}
      <Button className="mt-3" onClick={() => setChoosing(true)}>
        Another folder …
      </Button>
      {choosing && (
        <ChooseFolder
          title="A folder for files"
          about="What Rheon makes is put there; nothing in it is ever written over."
          onClose={() => setChoosing(false)}
          onChoose={onChange}
        />
      )}
    </>
  );
}
