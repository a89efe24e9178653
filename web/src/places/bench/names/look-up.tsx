import { useState } from "react";
import { Link } from "react-router";

import { useAllowLookUp, useLookUp, useLookUpChoice } from "../../../api/look-up";
import { counted } from "../../../domain/counts";
import { type Row, valueOf } from "../../../domain/tags";
import { Button } from "../../../ui/button";
import { Dialog } from "../../../ui/dialog";
import { Field } from "../../../ui/field";
import { Notice } from "../../../ui/notice";
import { NotYet } from "../../../ui/states";
import { FoundWorks } from "./found-works";
import type { ChangeTags } from "./use-edits";

interface Props {
  /** What is looked up together: a film, or the episodes of a season. */
  rows: readonly Row[];
  row: Row;
  onTake: ChangeTags;
}

/** Asks a service what it knows of a work, once somebody has said yes to what is sent. */
export function LookUp({ rows, row, onTake }: Props) {
  const [open, setOpen] = useState(false);
  const kind = valueOf(row, "kind");
  return (
    <>
      <Button disabled={kind === "extra" || kind === "sound"} onClick={() => setOpen(true)}>
        Look up …
      </Button>
      {open && (
        <LookUpDialog
          rows={rows}
          row={row}
          onTake={(...taken) => {
            setOpen(false);
            void onTake(...taken);
          }}
          onClose={() => setOpen(false)}
        />
      )}
    </>
  );
}

interface DialogProps {
  rows: readonly Row[];
  row: Row;
  onTake: (...taken: Parameters<ChangeTags>) => void;
  onClose: () => void;
}

function LookUpDialog({ rows, row, onTake, onClose }: DialogProps) {
  const choice = useLookUpChoice();
  const { asking, stop } = useLookUp();
  const isSeries = valueOf(row, "kind") === "episode";
  const called = valueOf(row, isSeries ? "show" : "title") || row.title_name;
  return (
    <Dialog
      open
      wide
      onOpenChange={(next) => {
        if (next) return;
        stop();
        onClose();
      }}
      title={`Look up ${called}`}
      about={
        rows.length > 1
          ? `For ${counted(rows.length, "episode")}. Nothing is changed before you have seen it.`
          : `For ${row.title_name}. Nothing is changed before you have seen it.`
      }
    >
      <NotYet query={choice} what="what is allowed" />
      {choice.data?.service === "" && (
        <p className="text-quiet">
          No look-up service is set, so nothing can be asked.{" "}
          <Link to="/settings" className="font-semibold text-river hover:underline">
            Settings
          </Link>{" "}
          says how one is.
        </p>
      )}
      {choice.data?.service && (
        <>
          <Words
            row={row}
            isSeries={isSeries}
            called={called}
            service={choice.data.service}
            allowed={choice.data.allowed}
            busy={asking.isPending}
            onStop={stop}
            onAsk={(words, again) =>
              asking.mutate({ ...words, titles: rows.map((one) => one.title_id), again })
            }
          />
          {asking.error && <Notice look="fault">{asking.error.message}</Notice>}
          {asking.isIdle && (
            <p className="mt-4 border-t border-hairline pt-4 text-quiet">
              What comes back is held against the lengths{isSeries && " and the number of episodes"} here. You
              see what agrees and what would change, and take it or leave it.
            </p>
          )}
          {asking.data && (
            <FoundWorks key={asking.data.answered} found={asking.data} called={called} onTake={onTake} />
          )}
        </>
      )}
    </Dialog>
  );
}

interface Asked {
  kind: "film" | "series";
  title: string;
  year: number | null;
  season: number | null;
}

interface WordsProps {
  row: Row;
  isSeries: boolean;
  called: string;
  service: string;
  allowed: boolean;
  busy: boolean;
  onAsk: (words: Asked, again: boolean) => void;
  onStop: () => void;
}

const NUMBER = /^\d{1,4}$/;

/** The words that are sent, to be changed before they are. */
function Words({ row, isSeries, called, service, allowed, busy, onAsk, onStop }: WordsProps) {
  const allow = useAllowLookUp();
  const [title, setTitle] = useState(called);
  const [year, setYear] = useState(isSeries ? "" : valueOf(row, "year"));
  const [season, setSeason] = useState(valueOf(row, "season"));
  const [asked, setAsked] = useState("");
  const words: Asked = {
    kind: isSeries ? "series" : "film",
    title: title.trim(),
    year: year ? Number(year) : null,
    season: isSeries && season ? Number(season) : null,
  };
  const faulty = [year, season].some((said) => said && !NUMBER.test(said));
  const isAsked = asked === JSON.stringify(words);
  const ready = Boolean(words.title) && !faulty && !busy && allowed;
  const ask = () => {
    if (!ready) return;
    onAsk(words, isAsked);
    setAsked(JSON.stringify(words));
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        ask();
      }}
    >
      <div className="flex flex-wrap items-end gap-3">
        <Field
          label={isSeries ? "Series" : "Title"}
          value={title}
          onChange={setTitle}
          className="min-w-48 flex-1"
        />
        {isSeries && <Field label="Season" value={season} onChange={setSeason} className="w-20" />}
        <Field label="Year" value={year} onChange={setYear} placeholder="any" className="w-20" />
        {busy ? (
          <Button onClick={onStop}>Stop</Button>
        ) : (
          <Button type="submit" look={isAsked ? "plain" : "primary"} disabled={!ready}>
            {isAsked ? "Ask again" : "Ask"}
          </Button>
        )}
      </div>
      <p className="mt-2 text-[13px] text-quiet" role="status">
        {faulty
          ? "A year and a season are numbers."
          : busy
            ? `Waiting for ${service} …`
            : `These words go to ${service} when you ask. Names of files, lengths and pictures stay here.`}
      </p>
      {!allowed && (
        <div className="mt-3">
          <Notice look="reason">
            <span className="flex flex-wrap items-center gap-3">
              Looking works up is off: nothing has been sent.
              <Button size="small" onClick={() => allow.mutate(true)} disabled={allow.isPending}>
                Allow it
              </Button>
              {allow.isError && <span className="text-madder">{allow.error.message}</span>}
            </span>
          </Notice>
        </div>
      )}
    </form>
  );
}
