import { Dialog as Primitive } from "radix-ui";
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";

import { useSources } from "../api/queries";
import { durationText } from "../domain/durations";
import { roleWord } from "../parts/roles";

/** Finds titles over all sources; `/` opens it. */
export function Search({
  open,
  onOpenChange: setOpen,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
}) {
  const [text, setText] = useState("");
  // Enter may come before the list does
  const [chosen, setChosen] = useState(false);
  const navigate = useNavigate();
  const { data: sources } = useSources();
  const wanted = text.trim().toLowerCase();
  const found = (sources ?? [])
    .flatMap((source) => source.titles.map((title) => ({ ...title, source: source.name })))
    .filter(
      (title) =>
        wanted && `${title.name} ${title.source} ${roleWord(title.role)}`.toLowerCase().includes(wanted),
    )
    .slice(0, 12);
  const go = (id: number) => {
    setOpen(false);
    setText("");
    setChosen(false);
    void navigate(`/shelf/titles/${id}`);
  };
  const first = found[0]?.id;
  useEffect(() => {
    if (!chosen || first === undefined) return;
    const soon = setTimeout(() => go(first));
    return () => clearTimeout(soon);
  });
  return (
    <Primitive.Root open={open} onOpenChange={setOpen}>
      <Primitive.Trigger className="flex h-8 w-48 items-center justify-between rounded-lg border border-hairline bg-ground pr-1.5 pl-2.5 text-quiet hover:border-quiet max-xl:w-40 max-lg:w-10 max-lg:justify-center max-lg:px-0">
        <span className="max-lg:sr-only">Find a title</span>
        <kbd className="rounded border border-hairline bg-raised px-1.5 text-[11px]">/</kbd>
      </Primitive.Trigger>
      <Primitive.Portal>
        <Primitive.Overlay className="fixed inset-0 z-40 bg-deep/40" />
        <Primitive.Content
          aria-describedby={undefined}
          className="fixed top-20 left-1/2 z-50 w-[min(34rem,calc(100vw-2rem))] -translate-x-1/2 rounded-card border border-hairline bg-raised p-2 shadow-2xl"
        >
          <Primitive.Title className="sr-only">Find a title</Primitive.Title>
          <input
            autoFocus
            value={text}
            onChange={(event) => {
              setText(event.target.value);
              setChosen(false);
            }}
            onKeyDown={(event) => event.key === "Enter" && setChosen(true)}
            placeholder="Name of a title or source"
            aria-label="Name of a title or source"
            className="h-10 w-full rounded-md bg-transparent px-3 text-base outline-none placeholder:text-quiet"
          />
          <ul>
            {found.map((title) => (
              <li key={title.id}>
                <button
                  type="button"
                  onClick={() => go(title.id)}
                  className="flex w-full items-baseline gap-3 rounded-md px-3 py-2 text-left hover:bg-sunk focus-visible:bg-sunk"
                >
                  <span className="min-w-0 flex-1 truncate font-medium">{title.name}</span>
                  <span className="text-quiet">{roleWord(title.role)}</span>
                  <span className="w-16 text-right text-quiet">{durationText(title.duration_s)}</span>
                </button>
              </li>
            ))}
            {wanted && !found.length && (
              <li className="px-3 py-2 text-quiet">No title is called like that.</li>
            )}
          </ul>
        </Primitive.Content>
      </Primitive.Portal>
    </Primitive.Root>
  );
}
