import type { Schemas } from "../../../api/client";
import { confirmed, type Row } from "../../../domain/tags";
import { Button } from "../../../ui/button";
import { IN_TABLE } from "./names-table";
import { TagInput } from "./tag-input";
import type { ChangeTags } from "./use-edits";

const LONG = ["description", "comment"];

interface Props {
  row: Row;
  /** What is looked at. */
  at: { row: number; tag: string };
  tags: Schemas["Tags"];
  onChange: ChangeTags;
}

/** Where the value that is looked at comes from, and the tags that have no column. */
export function NamesDetails({ row, at, tags, onChange }: Props) {
  const give = (tag: string, label: string, value: string | null) =>
    onChange(label, [{ title_id: row.title_id, tag, value }]);
  const looked = tags.fields.find(({ name }) => name === at.tag);
  const tag = row.tags[at.tag];
  const right = confirmed(tags.titles, at.row, at.tag, tags.look_below);
  const rest = tags.fields.filter(({ name }) => !IN_TABLE.includes(name));
  return (
    <section
      aria-label={`More of ${row.title_name}`}
      className="bottom-0 z-20 border-t border-hairline bg-ground px-6 py-3 max-md:px-3 md:sticky"
    >
      <div className="flex min-h-7 flex-wrap items-baseline gap-x-3">
        <h2 className="max-w-[420px] truncate text-[15px]">{row.title_name}</h2>
        <p className="text-[13px] text-quiet" role="status">
          {looked && `${looked.label}: ${tag?.reason ?? "nothing is known of it"}`}
        </p>
        {looked && right.length > 0 && (
          <Button look="link" size="text" onClick={() => void onChange(looked.label, right)}>
            That is right{right.length > 1 && `, for all ${right.length}`}
          </Button>
        )}
        {looked && tag?.by_hand && (
          <Button look="link" size="text" onClick={() => void give(at.tag, looked.label, null)}>
            Use what was found
          </Button>
        )}
      </div>
      <div className="mt-1 grid grid-cols-[80px_repeat(3,minmax(0,1fr))] gap-x-3 gap-y-2 max-md:grid-cols-2">
        {rest.map(({ name, label }) => (
          <label key={name} className={LONG.includes(name) ? "col-span-2" : ""}>
            <span className="mb-0.5 block text-[12.5px] text-quiet">{label}</span>
            <TagInput
              key={row.title_id}
              label={`${label} of ${row.title_name}`}
              tag={row.tags[name]}
              lookBelow={tags.look_below}
              long={LONG.includes(name)}
              onValue={(value) => give(name, label, value)}
            />
          </label>
        ))}
      </div>
    </section>
  );
}
