import { useNavigate } from "react-router";

import { sizeText } from "../../domain/sizes";
import { PlaceHead } from "../../parts/place-head";
import { Segments } from "../../ui/segments";
import { PickUpOpen } from "./handover/pick-up";
import { ADDRESSES, BY_DEVICE, FILES, type Group, TO_TRY } from "./groups";

interface Props {
  outbox: { count: number; samples: number; bytes: number };
  group: Group;
}

/** The Outbox's head: what is in it, and by what it is shown. */
export function OutboxHead({ outbox, group }: Props) {
  const navigate = useNavigate();
  const options: Group[] = outbox.samples > 0 ? [FILES, BY_DEVICE, TO_TRY] : [FILES, BY_DEVICE];
  return (
    <PlaceHead
      name="Outbox"
      about={
        outbox.count
          ? `${outbox.count} ${outbox.count === 1 ? "file" : "files"} · ${sizeText(outbox.bytes)}`
          : undefined
      }
    >
      <PickUpOpen />
      {(outbox.count > 0 || outbox.samples > 0) && (
        <Segments
          label="Shown"
          value={group}
          options={options}
          onChange={(wanted) => void navigate(ADDRESSES[wanted])}
        />
      )}
    </PlaceHead>
  );
}
