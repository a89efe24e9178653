import { useState } from "react";

import type { Schemas } from "../../api/client";
import { artworkInside } from "../../api/artwork";
import { useChangeOutputTags } from "../../api/tags";
import { tagsLine } from "../../domain/tags";
import { Button } from "../../ui/button";
import { Checkbox } from "../../ui/checkbox";
import { Select } from "../../ui/select";

type Tags = NonNullable<Schemas["Output"]["tags"]>;
type Artwork = NonNullable<Schemas["NewTags"]["artwork"]>;

/** What is written in a file, in a line, and what changes it. */
export function OutputTags({ output, tags }: { output: Schemas["Output"]; tags: Tags }) {
  const [open, setOpen] = useState(false);
  const line = tagsLine(Object.fromEntries(tags.tags.map(({ name, value }) => [name, value])));
  return (
    <section aria-label="Name and tags" className="mt-6">
      <h3 className="flex items-baseline justify-between gap-3 text-[15px]">
        Name and tags
        {output.present && !tags.writing && (
          <Button look="link" size="text" aria-expanded={open} onClick={() => setOpen(!open)}>
            {open ? "Leave them as they are" : "Change"}
          </Button>
        )}
      </h3>
      <div className="mt-1 flex items-start gap-3">
        {output.present && tags.artwork.length > 0 && (
          <Inside
            // another one after each writing
            key={`${output.size_bytes} ${tags.writing}`}
            src={artworkInside(output.id, output.size_bytes)}
          />
        )}
        <p className="min-w-0 break-words">{line}</p>
      </div>
      {tags.writing && (
        <p role="status" className="mt-1 text-quiet">
          Other tags are being written into the file. It is whole at every moment of it.
        </p>
      )}
      {tags.error && (
        <p role="alert" className="mt-1 text-madder">
          {tags.error}
        </p>
      )}
      {open && !tags.writing && <TagsForm id={output.id} tags={tags} onDone={() => setOpen(false)} />}
    </section>
  );
}

/** The picture inside a file; nothing where it has none. */
function Inside({ src }: { src: string }) {
  const [there, setThere] = useState(false);
  return (
    <img
      src={src}
      hidden={!there}
      alt="Artwork in the file"
      onLoad={() => setThere(true)}
      className="max-h-24 max-w-28 shrink-0 rounded-md border border-hairline"
    />
  );
}

function TagsForm({ id, tags, onDone }: { id: number; tags: Tags; onDone: () => void }) {
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [rename, setRename] = useState(false);
  const [artwork, setArtwork] = useState<Artwork>("kept");
  const nothing = !rename && artwork === "kept" && Object.keys(typed).length === 0;
  const change = useChangeOutputTags(id, onDone);
  const give = (name: string, value: string) => setTyped((old) => ({ ...old, [name]: value }));
  return (
    <form
      className="mt-2"
      onSubmit={(event) => {
        event.preventDefault();
        change.mutate({ tags: typed, rename, artwork });
      }}
    >
      <div className="grid grid-cols-[repeat(auto-fill,minmax(170px,1fr))] gap-x-3 gap-y-2">
        {tags.tags.map((tag) => (
          <TagField
            key={tag.name}
            tag={tag}
            value={typed[tag.name] ?? tag.value}
            onValue={(value) => give(tag.name, value)}
          />
        ))}
        {tags.artwork.length > 0 && (
          <div>
            <span className="mb-0.5 block text-[12.5px] text-quiet">Artwork</span>
            <Select
              label="Artwork"
              value={artwork}
              choices={tags.artwork}
              onChange={(said) => setArtwork(said === "title" || said === "none" ? said : "kept")}
            />
          </div>
        )}
      </div>
      <label className="mt-3 inline-flex items-center gap-2.5">
        <Checkbox label="Call the file by them too" checked={rename} onChange={setRename} />
        Call the file by them too
        {rename && Object.keys(typed).length === 0 && (
          <span className="break-all text-quiet">{tags.proposed_name}</span>
        )}
      </label>
      <div className="mt-3 flex items-center gap-3">
        <Button type="submit" look="primary" disabled={change.isPending || nothing}>
          Write into the file
        </Button>
        {change.isError && (
          <p role="alert" className="text-[13px] text-madder">
            {change.error.message}
          </p>
        )}
      </div>
    </form>
  );
}

interface FieldProps {
  tag: Tags["tags"][number];
  value: string;
  onValue: (value: string) => void;
}

function TagField({ tag, value, onValue }: FieldProps) {
  const look = "w-full rounded-md border border-hairline bg-ground px-2 py-1 hover:border-quiet";
  if (tag.choices.length)
    return (
      <div>
        <span className="mb-0.5 block text-[12.5px] text-quiet">{tag.label}</span>
        <Select label={tag.label} value={value} choices={tag.choices} onChange={onValue} />
      </div>
    );
  const long = tag.name === "description" || tag.name === "comment";
  return (
    <label className={long ? "col-span-full" : ""}>
      <span className="mb-0.5 block text-[12.5px] text-quiet">{tag.label}</span>
      {long ? (
        <textarea className={look} rows={2} value={value} onChange={(event) => onValue(event.target.value)} />
      ) : (
        <input className={look} value={value} onChange={(event) => onValue(event.target.value)} />
      )}
    </label>
  );
}
