import { Check, Minus, X } from "lucide-react";
import { useState } from "react";

import type { Schemas } from "../../../api/client";
import { counted } from "../../../domain/counts";
import { momentText } from "../../../domain/moments";
import { Button } from "../../../ui/button";
import type { ChangeTags } from "./use-edits";

type Work = Schemas["FoundWork"];

interface Props {
  found: Schemas["LookUp"];
  called: string;
  onTake: (...taken: Parameters<ChangeTags>) => void;
}

/** The works that a service knows, as they stand to what is here; the surest is open. */
export function FoundWorks({ found, called, onTake }: Props) {
  const [open, setOpen] = useState(found.works[0]?.key ?? "");
  if (!found.works.length)
    return (
      <p className="mt-4 border-t border-hairline pt-4 text-quiet" role="status">
        {found.service} knows nothing by this name. Try fewer words, or leave the year out.
      </p>
    );
  const agreeing = found.works.filter(({ agrees }) => agrees).length;
  return (
    <section aria-label="What it knows" className="mt-4">
      <p className="text-quiet" role="status">
        {agreeing === 1
          ? "One agrees with what is here."
          : agreeing
            ? `${agreeing} agree with what is here: look which it is.`
            : "None of them agrees with what is here."}{" "}
        Answered {momentText(found.answered)}.
      </p>
      <ul className="mt-2 grid gap-2">
        {found.works.map((work) => (
          <li key={work.key} className="rounded-card border border-hairline bg-ground">
            <button
              type="button"
              aria-expanded={open === work.key}
              onClick={() => setOpen(open === work.key ? "" : work.key)}
              className="flex w-full flex-wrap items-baseline gap-x-3 px-3 py-2 text-left hover:bg-mist"
            >
              <span className="font-semibold">{work.title}</span>
              <span className="min-w-0 flex-1 text-quiet">{work.about}</span>
              <Standing work={work} />
            </button>
            {open === work.key && (
              <OneWork
                work={work}
                onTake={() =>
                  onTake(
                    `Look up ${called}`,
                    work.changes.map(({ title_id, tag, new: value }) => ({ title_id, tag, value })),
                    work.key,
                  )
                }
              />
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Standing({ work: { agrees, facts } }: { work: Work }) {
  if (agrees) return <span className="font-semibold text-moss">agrees</span>;
  const against = facts.some((fact) => fact.agrees === false);
  return <span className="text-quiet">{against ? "differs" : "may be it"}</span>;
}

function OneWork({ work, onTake }: { work: Work; onTake: () => void }) {
  return (
    <div className="border-t border-hairline px-3 py-2.5">
      <ul aria-label="How it stands to what is here" className="grid gap-0.5">
        {work.facts.map((fact) => (
          <FactLine key={fact.text} fact={fact} />
        ))}
      </ul>
      <Changes work={work} />
      <div className="mt-3 flex flex-wrap items-center gap-3">
        <Button look={work.agrees ? "primary" : "plain"} disabled={!work.changes.length} onClick={onTake}>
          {work.agrees ? "Take it" : "Take it all the same"}
        </Button>
        {work.kept > 0 && (
          <span className="text-[13px] text-quiet">
            {work.kept === 1 ? "One value that you have" : `${work.kept} values that you have`} set otherwise{" "}
            {work.kept === 1 ? "stays" : "stay"}.
          </span>
        )}
      </div>
    </div>
  );
}

function FactLine({ fact }: { fact: Schemas["WorkFact"] }) {
  const [Mark, look, said] =
    fact.agrees === null
      ? ([Minus, "text-quiet", "not known"] as const)
      : fact.agrees
        ? ([Check, "text-moss", "agrees"] as const)
        : ([X, "text-madder", "differs"] as const);
  return (
    <li className="flex items-baseline gap-2">
      <Mark size={14} className={`shrink-0 translate-y-0.5 ${look}`} aria-hidden />
      <span className="sr-only">{said}: </span>
      {fact.text}
    </li>
  );
}

/** What titles would get, those that get the same together. */
function Changes({ work }: { work: Work }) {
  if (!work.changes.length)
    return <p className="mt-2 text-quiet">It tells nothing that is not known here already.</p>;
  const titles = new Set(work.changes.map(({ title_id }) => title_id)).size;
  return (
    <table aria-label="What would change" className="mt-2.5 w-full text-left text-[13px]">
      <tbody>
        {together(work.changes).map(({ key, names, label, old, value }) => (
          <tr key={key} className="border-t border-hairline align-top">
            <th scope="row" className="w-24 py-1 pr-3 font-normal text-quiet">
              {label}
            </th>
            <td className="py-1 pr-3 [overflow-wrap:anywhere]">
              {old && <del className="mr-2 text-quiet">{old}</del>}
              {value}
            </td>
            {titles > 1 && <td className="w-56 py-1 text-right text-quiet max-sm:hidden">{names}</td>}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function together(changes: Work["changes"]) {
  const lines = new Map<string, Work["changes"]>();
  for (const change of changes) {
    const key = JSON.stringify([change.tag, change.old, change.new]);
    lines.set(key, [...(lines.get(key) ?? []), change]);
  }
  const tags = [...new Set(changes.map(({ tag }) => tag))];
  const inOrder = [...lines].sort(
    ([, [one]], [, [other]]) => tags.indexOf(one?.tag ?? "") - tags.indexOf(other?.tag ?? ""),
  );
  return inOrder.flatMap(([key, same]) => {
    const [first] = same;
    if (!first) return [];
    const names = same.length > 1 ? counted(same.length, "title") : first.title_name;
    return [{ key, names, label: first.label, old: first.old, value: first.new }];
  });
}
