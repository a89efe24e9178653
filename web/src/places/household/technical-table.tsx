import { AUDIO, CONTAINER, LIMITS, SUBTITLE, VIDEO } from "./profile-fields";
import { entriesAt, type Entry, entryAt, type FieldSpec, shown } from "./profile-values";

/** The numbers behind the sentences: every entry of a profile, field by field. */
export function TechnicalTable({ document }: { document: Entry }) {
  const list = (key: string) => entriesAt(document, key);
  return (
    <details className="mt-3 text-[13px]">
      <summary className="cursor-pointer text-river">Technical table</summary>
      <Group name="Files" specs={CONTAINER} entries={list("containers")} />
      <Group name="Picture" specs={VIDEO} entries={list("video")} />
      <Group name="Sound" specs={AUDIO} entries={list("audio")} />
      <Group name="Subtitles" specs={SUBTITLE} entries={list("subtitles")} />
      <Group name="Limits" specs={LIMITS} entries={[entryAt(document, "limits")]} />
    </details>
  );
}

function text(spec: FieldSpec, value: unknown): string {
  if (spec.kind === "yes") return value === true ? "yes" : "no";
  const name = spec.choices?.find(([key]) => key === value)?.[1] ?? shown(spec, value);
  return name && spec.unit ? `${name} ${spec.unit}` : name || "–";
}

function Group({ name, specs, entries }: { name: string; specs: FieldSpec[]; entries: Entry[] }) {
  const used = specs.filter((spec) => entries.some((entry) => entry[spec.key] !== undefined));
  if (!entries.length || !used.length) return null;
  return (
    <table className="mt-2 w-full">
      <caption className="text-left font-semibold">{name}</caption>
      <tbody>
        {used.map((spec) => (
          <tr key={spec.key} className="border-t border-hairline align-top">
            <th scope="row" className="w-24 py-0.5 pr-2 text-left font-normal text-quiet">
              {spec.label}
            </th>
            {entries.map((entry, place) => (
              <td key={place} className="py-0.5 pr-2">
                {text(spec, entry[spec.key])}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
