import { Pencil } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";

import type { Schemas } from "../../api/client";
import { useSetPicked } from "../../api/picks";
import { useChangeTitle } from "../../api/queries";
import { durationText } from "../../domain/durations";
import { sizeText } from "../../domain/sizes";
import { numberText, roleWord } from "../../parts/roles";
import { AskName } from "../../ui/ask-name";
import { Button } from "../../ui/button";
import { Notice } from "../../ui/notice";
import { Select } from "../../ui/select";

const ROLES: Schemas["Role"][] = ["feature", "episode", "play_all", "extra", "menu", "duplicate"];
const AS_READ = "as-read";

/** What a title is called and taken for, and why; all of it can be set by hand. */
export function TitleHead({ title, picked }: { title: Schemas["Title"]; picked: boolean }) {
  const setPicked = useSetPicked();
  const change = useChangeTitle(title.id);
  const [naming, setNaming] = useState(false);
  const roles = ROLES.map((role) => ({ value: role, text: roleWord(role) }));
  const angles = Array.from({ length: title.angles }, (_, index) => ({
    value: String(index + 1),
    text: `angle ${index + 1} of ${title.angles}`,
  }));
  return (
    <>
      <h2 className="pr-8 text-xl break-words">
        {title.name}{" "}
        <Button
          look="quiet"
          size="icon"
          className="size-6 align-middle"
          aria-label="Rename this title"
          onClick={() => setNaming(true)}
        >
          <Pencil size={13} />
        </Button>
      </h2>
      <p className="mb-3 text-quiet">
        {title.parts.length
          ? `Join of ${title.parts.length} titles`
          : `Title ${numberText(title)} of ${title.source_name}`}{" "}
        · {durationText(title.duration_s)} · {sizeText(title.size_bytes)}
      </p>
      <div className="mb-3 flex flex-wrap items-center gap-2">
        {!title.fault && (
          <Button
            size="small"
            look={picked ? "plain" : "primary"}
            onClick={() => setPicked.mutate({ title_ids: [title.id], picked: !picked })}
          >
            {picked ? "Put back" : "Pick this title"}
          </Button>
        )}
        <Button size="small" asChild>
          <Link to={`/bench/verdicts/${title.id}`}>Which devices play it?</Link>
        </Button>
        <Select
          label="What it is"
          value={title.role}
          onChange={(role) => change.mutate({ role: role === AS_READ ? null : role })}
          choices={title.role_by_hand ? [...roles, { value: AS_READ, text: "what the disc says" }] : roles}
        />
        {title.angles > 1 && (
          <Select
            label="Angle"
            value={String(title.angle)}
            onChange={(angle) => change.mutate({ angle: Number(angle) })}
            choices={angles}
          />
        )}
      </div>
      {title.fault ? (
        <Notice look="fault">
          {title.fault === "part_missing"
            ? "A part of this join is not on the Shelf any more. Add its source again, or put the join together anew from what is there."
            : "This title can’t be converted; the Shelf says why."}
        </Notice>
      ) : (
        <Notice look="reason">
          {title.reasons.map((reason) => reason.charAt(0).toUpperCase() + reason.slice(1)).join(". ")}.
        </Notice>
      )}
      {change.isError && <Notice look="fault">{change.error.message}</Notice>}
      {naming && (
        <AskName
          open
          onOpenChange={setNaming}
          title="Rename this title"
          about="The name goes into plans and files. Leave it empty for the one it had."
          label="Name"
          value={title.name}
          onName={(name) => change.mutate({ name })}
        />
      )}
    </>
  );
}
