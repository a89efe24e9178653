import { ArrowLeft } from "lucide-react";

import type { Schemas } from "../api/client";
import { useFinding } from "../api/household";
import { Button } from "../ui/button";
import { Field } from "../ui/field";
import { Segments } from "../ui/segments";
import { Failed } from "../ui/states";
import { AbilityList } from "./ability-list";
import { useDebounced } from "./debounced";
import { DeviceIcon } from "./device-icon";
import type { Finding } from "./finder";
import { ProfileList } from "./profile-list";
import { QuestionRow } from "./question-row";

interface Props {
  families: Schemas["Family"][];
  finding: Finding;
  /** Whether what it plays is folded away: where the page has other things to show. */
  folded?: boolean;
  /** What is done with the device that was found: its name, a button. */
  act: (profile: Schemas["Profile"], heard: Schemas["Heard"] | undefined) => React.ReactNode;
}

/**
 * From a sentence or a few plain questions to the kind of device it most probably is, with its doubts
 * named.
 */
export function DeviceFinder({ families, finding, folded = false, act }: Props) {
  const { finder } = finding;
  const typed = useDebounced(finder.typed, 200);
  const asked = Boolean(typed.trim() || finder.kind);
  const heard = useFinding({ ...finder, typed });
  const found = asked ? heard.data?.found : undefined;
  const nothing = asked && heard.data && !heard.data.found.length && !heard.data.standards.length;
  return (
    <>
      <Field
        label="Say what it is, as you would to a neighbour"
        placeholder="a tablet, about 2015, small screen"
        value={finder.typed}
        onChange={finding.type}
        className="mb-3"
      />
      {heard.isError && asked && <Failed error={heard.error} onRetry={() => void heard.refetch()} />}
      {nothing && (
        <p className="mb-3 rounded-lg bg-sand px-3 py-2">
          Nothing here is called like that. What kind of thing is it?
        </p>
      )}
      {(!asked || nothing) && (
        <>
          {!asked && <p className="mb-1.5 text-quiet">Or begin with what kind of thing it is</p>}
          <Families families={families} onChoose={finding.kindIs} />
        </>
      )}
      {asked && heard.data && !heard.data.found.length && heard.data.standards.length > 0 && (
        <>
          <p className="mb-2 text-quiet">Points of the standards, for whoever knows what a device decodes:</p>
          <ProfileList
            label="Points of the standards"
            rows={heard.data.standards.map((profile) => ({ profile }))}
            chosen={finder.chosen ?? null}
            onChoose={finding.choose}
          />
          {finder.chosen && act(finder.chosen, heard.data)}
        </>
      )}
      {found && found.length > 0 && (
        <Result
          families={families}
          finding={finding}
          heard={heard.data}
          busy={heard.isPlaceholderData}
          folded={folded}
          act={act}
        />
      )}
    </>
  );
}

/** What kind of thing it is, when nobody has typed anything. */
function Families({
  families,
  onChoose,
}: {
  families: Schemas["Family"][];
  onChoose: (kind: Schemas["DeviceKind"]) => void;
}) {
  return (
    <ul
      aria-label="What kind of thing is it?"
      className="grid grid-cols-[repeat(auto-fill,minmax(200px,1fr))] gap-2"
    >
      {families.map((family) => (
        <li key={family.kind}>
          <button
            type="button"
            onClick={() => onChoose(family.kind)}
            className="flex h-full w-full items-center gap-2.5 rounded-lg border border-hairline bg-raised px-3 py-2.5 text-left hover:border-quiet hover:bg-sunk"
          >
            <DeviceIcon kind={family.kind} />
            <span>{family.label}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}

interface ResultProps extends Props {
  heard: Schemas["Heard"] | undefined;
  /** Whether what is shown belongs to what was said before. */
  busy: boolean;
}

function Result({ families, finding, heard, busy, folded, act }: ResultProps) {
  const { finder } = finding;
  const best = heard?.found[0];
  if (!heard || !best) return null;
  const kind = finder.kind ?? best.profile.kind;
  const family = families.find((one) => one.kind === kind);
  const said = (name: string) =>
    name in finder.said
      ? finder.said[name]
      : heard.yes.includes(name)
        ? true
        : heard.no.includes(name)
          ? false
          : undefined;
  const shown = finder.chosen ?? best.profile;
  // what was answered stays where it is, so that it can be changed
  const answered = Object.keys(finder.said).flatMap((id) => heard.answered.filter((one) => one.id === id));
  const questions = [...answered, ...best.questions];
  const others = [...heard.found.slice(1).map((one) => one.profile), ...best.others, best.profile].filter(
    (one) => one.id !== shown.id,
  );
  return (
    <>
      <div className="mb-4 flex flex-wrap items-center gap-x-4 gap-y-2">
        <Button size="small" onClick={finding.clear}>
          <ArrowLeft size={14} /> Something else
        </Button>
        {family && family.spans.length > 1 && (
          <Ages family={family} year={finder.year ?? heard.year ?? undefined} onChoose={finding.yearIs} />
        )}
      </div>
      <section
        aria-label="The device that fits best"
        aria-busy={busy}
        className="rounded-card border border-hairline bg-raised p-4"
      >
        <div className="flex items-start gap-3">
          <DeviceIcon kind={shown.kind} size={22} />
          <div className="min-w-0 flex-1">
            <h3 className="text-[17px]">{shown.name}</h3>
            <p className="text-quiet">{shown.about}</p>
            {best.guessed_age && !finder.chosen && (
              <p className="mt-1">
                You did not say how old it is; this is the careful guess among those still in use.
              </p>
            )}
          </div>
        </div>
        {!finder.chosen && questions.length > 0 && (
          <>
            <h4 className="mt-4">
              <span className="font-semibold">Would you know?</span> Each answer makes it surer; none is
              needed.
            </h4>
            <ul aria-label="Questions" className="mt-1 divide-y divide-hairline border-y border-hairline">
              {questions.map((question) => (
                <QuestionRow
                  key={question.id}
                  question={question}
                  said={said(question.id)}
                  onSay={(value) => finding.answer(question.id, value)}
                />
              ))}
            </ul>
          </>
        )}
        {!finder.chosen && (
          <details open={!folded} className="mt-4">
            <summary className="cursor-pointer font-semibold">What it plays</summary>
            <AbilityList abilities={best.abilities} />
          </details>
        )}
      </section>
      {others.length > 0 && <Others others={others} finding={finding} />}
      {act(shown, heard)}
    </>
  );
}

function Others({ others, finding }: { others: Schemas["Profile"][]; finding: Finding }) {
  return (
    <details className="mt-3">
      <summary className="cursor-pointer text-river">Others that fit what you said ({others.length})</summary>
      <div className="mt-2">
        <ProfileList
          label="Others that fit"
          rows={others.map((profile) => ({ profile }))}
          chosen={finding.finder.chosen ?? null}
          onChoose={finding.choose}
        />
      </div>
    </details>
  );
}

/** How old it is, in steps that make a difference. */
function Ages({
  family,
  year,
  onChoose,
}: {
  family: Schemas["Family"];
  year: number | undefined;
  onChoose: (year: number) => void;
}) {
  const chosen = [...family.spans]
    .reverse()
    .find((span, place, all) => year !== undefined && year >= startOf(span, all[place + 1]));
  return (
    <div className="flex flex-wrap items-center gap-2">
      <span className="text-quiet">New in</span>
      <Segments
        label="When was it new?"
        value={chosen?.text ?? ""}
        options={family.spans.map(({ text }) => text)}
        onChange={(text) => onChoose(family.spans.find((span) => span.text === text)?.year ?? 0)}
      />
    </div>
  );
}

/** The first year of a span; the oldest one begins with time itself. */
const startOf = (span: Schemas["Span"], before: Schemas["Span"] | undefined) => (before ? span.since : 0);
