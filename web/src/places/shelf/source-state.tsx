import type { Schemas } from "../../api/client";
import { type SourceVerb, useSourceAction } from "../../api/queries";
import { useUndo } from "../../parts/undo";
import { Button } from "../../ui/button";
import { Notice } from "../../ui/notice";

type Source = Schemas["Source"];

const SAID: Partial<
  Record<
    Source["state"],
    { text: (source: Source) => string; fault: boolean; verbs: [SourceVerb | "remove", string][] }
  >
> = {
  failed: {
    text: (source) => source.error_message,
    fault: true,
    verbs: [
      ["read-again", "Read again"],
      ["remove", "Remove"],
    ],
  },
  stopped: {
    text: () => "Reading was stopped before it was through.",
    fault: false,
    verbs: [
      ["read-again", "Read again"],
      ["remove", "Remove"],
    ],
  },
  missing: {
    text: (source) =>
      `${source.path.split("/").at(-1) ?? "It"} is not where it was any more. What you set is kept until you remove it.`,
    fault: true,
    verbs: [
      ["find-again", "Look for it"],
      ["remove", "Remove"],
    ],
  },
};

/** How reading a source goes, or why there is nothing to read. */
export function SourceStateLine({ source }: { source: Source }) {
  const act = useSourceAction();
  const { remove } = useUndo();
  const onVerb = (verb: SourceVerb | "remove") =>
    verb === "remove"
      ? remove({ kind: "source", ids: [source.id], text: `${source.name} is off the Shelf.` })
      : act.mutate({ id: source.id, verb });
  if (source.state === "waiting" || source.state === "reading") {
    const counted = source.state === "reading" && source.title_count > 0;
    const text =
      source.state === "waiting"
        ? "Waiting to be read …"
        : counted
          ? `Reading title ${source.at_title} of ${source.title_count} …`
          : "Reading …";
    return (
      <div className="flex items-center gap-3 pl-7">
        <div className="flex h-[26px] min-w-0 flex-1 reading items-center rounded-[5px] px-2" role="status">
          <span className="rounded bg-ground/85 px-1.5 text-[12.5px]">{text}</span>
        </div>
        <Button size="small" onClick={() => onVerb("stop")}>
          Stop
        </Button>
      </div>
    );
  }
  const said = SAID[source.state];
  if (!said) return null;
  return (
    <div className="space-y-2 pl-7">
      <div className="flex items-start gap-3">
        <p
          className={`min-w-0 flex-1 break-words ${said.fault ? "text-madder" : "text-quiet"}`}
          role={said.fault ? "alert" : undefined}
        >
          {said.text(source)}
        </p>
        {said.verbs.map(([verb, text]) => (
          <Button key={verb} size="small" onClick={() => onVerb(verb)}>
            {text}
          </Button>
        ))}
      </div>
      {act.isError && <Notice look="fault">{act.error.message}</Notice>}
    </div>
  );
}
