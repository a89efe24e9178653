import { MoreHorizontal } from "lucide-react";
import { type ComponentProps, useState } from "react";
import { useNavigate } from "react-router";

import type { Schemas } from "../../api/client";
import { useRenameSource, useSourceAction } from "../../api/queries";
import { useCopyDisc } from "../../api/worklist";
import { sizeText } from "../../domain/sizes";
import { useUndo } from "../../parts/undo";
import { AskName } from "../../ui/ask-name";
import { Button } from "../../ui/button";
import { Menu } from "../../ui/menu";

type Source = Schemas["Source"];

function about(source: Source): string {
  const form = { folder: "folder", image: "image", file: "file" }[source.form] ?? "";
  const kind = { dvd: "DVD ", bluray: "Blu-ray ", files: "" }[source.kind] ?? "";
  const what = source.drive !== null ? `${kind}disc in the drive` : `${kind}${form}`;
  const parts = [what.charAt(0).toUpperCase() + what.slice(1)];
  if (source.size_bytes) parts.push(sizeText(source.size_bytes));
  if (source.titles.length > 1) parts.push(`${source.titles.length} titles`);
  return parts.filter(Boolean).join(" · ");
}

/** A source's name, what it is, and what can be done with it. */
export function SourceHead({ source }: { source: Source }) {
  // a Shelf may be very long: a menu is made when somebody opens it
  const [asked, setAsked] = useState(false);
  const busy = source.state === "waiting" || source.state === "reading";
  const file = fileOf(source);
  return (
    <div className="relative min-w-0 max-md:pb-2">
      <h2 className="truncate pr-7 text-[16px]" title={`${source.name}: ${source.path}`}>
        {source.name}
      </h2>
      <p className="truncate text-[12px] text-quiet" title={source.label}>
        {source.kind === "files" ? file : source.label || file}
      </p>
      <p className="text-[12px] text-quiet">{about(source)}</p>
      {!busy &&
        (asked ? (
          <SourceMenu source={source} />
        ) : (
          <MoreButton
            aria-label={`More for ${source.name}`}
            aria-haspopup="menu"
            aria-expanded={false}
            onPointerDown={(event) => event.button === 0 && setAsked(true)}
            onClick={() => setAsked(true)}
          />
        ))}
    </div>
  );
}

const fileOf = (source: Source) => source.path.split("/").at(-1) ?? "";

function MoreButton(rest: ComponentProps<"button">) {
  return (
    <Button look="quiet" size="icon" {...rest} className="absolute top-0 right-0 size-6">
      <MoreHorizontal size={15} />
    </Button>
  );
}

function SourceMenu({ source }: { source: Source }) {
  const act = useSourceAction();
  const { remove } = useUndo();
  const rename = useRenameSource();
  const navigate = useNavigate();
  const copy = useCopyDisc(() => void navigate("/worklist"));
  const [naming, setNaming] = useState(false);
  return (
    <>
      <Menu
        label={`More for ${source.name}`}
        defaultOpen
        entries={[
          { text: "Rename", onChoose: () => setNaming(true) },
          { text: "Read it again", onChoose: () => act.mutate({ id: source.id, verb: "read-again" }) },
          ...(source.kind === "dvd" || source.kind === "bluray"
            ? [
                {
                  text: "Copy the whole disc",
                  note: "every file as it is, with checksums, verified",
                  onChoose: () => copy.mutate(source.id),
                },
              ]
            : []),
          {
            text: "Take it off the Shelf",
            onChoose: () =>
              remove({ kind: "source", ids: [source.id], text: `${source.name} is off the Shelf.` }),
          },
        ]}
      >
        <MoreButton />
      </Menu>
      {copy.isError && (
        <p role="alert" className="text-[12px] text-madder">
          {copy.error.message}
        </p>
      )}
      {naming && (
        <AskName
          open
          onOpenChange={setNaming}
          title={`Rename ${source.name}`}
          about="Only on the Shelf; the files keep their names. Leave it empty for the disc's own name."
          label="Name"
          value={source.name}
          onName={(name) => rename.mutate({ id: source.id, name })}
        />
      )}
    </>
  );
}
