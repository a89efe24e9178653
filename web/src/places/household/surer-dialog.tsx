import { Download } from "lucide-react";
import { useState } from "react";

import { under } from "../../api/base";
import type { Schemas } from "../../api/client";
import { asQuestion, useAnswer, useTellTrial } from "../../api/household";
import { SureMark } from "../../parts/sure-mark";
import { QuestionRow } from "../../parts/question-row";
import { Button } from "../../ui/button";
import { Dialog } from "../../ui/dialog";
import { Notice } from "../../ui/notice";

type Device = Schemas["Device"];

/** What would settle the doubts about a device: plain questions, and test files that play or do not. */
export function SurerDialog({ device, onClose }: { device: Device; onClose: () => void }) {
  const answer = useAnswer(device.id);
  const [skipped, setSkipped] = useState<ReadonlySet<string>>(new Set());
  const doubts = device.abilities.filter(({ sure }) => sure === "doubtful");
  const questions = device.questions.filter(({ id }) => !skipped.has(id));
  const skip = (id: string) => setSkipped((old) => new Set([...old, id]));
  return (
    <Dialog
      open
      onOpenChange={(next) => !next && onClose()}
      title={`Make ${device.name} surer`}
      about="Rheon plans only with what is sure. Each of these makes it surer; none is needed."
      footer={<Button onClick={onClose}>Done</Button>}
    >
      {answer.isError && <Notice look="fault">{answer.error.message}</Notice>}
      {questions.length > 0 && (
        <>
          <h3 className="text-[15px]">Would you know?</h3>
          <ul aria-label="Questions" className="mt-1 mb-5 divide-y divide-hairline border-y border-hairline">
            {questions.map((question) => (
              <QuestionRow
                key={question.id}
                question={question}
                said={undefined}
                onSay={(yes) =>
                  yes === null ? skip(question.id) : answer.mutate({ question: asQuestion(question.id), yes })
                }
              />
            ))}
          </ul>
        </>
      )}
      {doubts.length > 0 ? (
        <>
          <h3 className="text-[15px]">{questions.length ? "Or try it" : "Try it"}</h3>
          <p className="mt-0.5 text-quiet">
            Put the small test file on the device as you would a film, play it, and say what you saw. Rheon
            makes it when you ask for it, which takes up to half a minute.
          </p>
          <ul aria-label="Doubts" className="mt-2 divide-y divide-hairline border-y border-hairline">
            {doubts.map((ability) => (
              <Doubt key={ability.key} device={device} ability={ability} />
            ))}
          </ul>
          <p className="mt-3 text-[13px] text-quiet">
            A device with a browser can also be asked itself: “Ask a device” in the Household.
          </p>
        </>
      ) : (
        <p className="text-quiet">Nothing is in doubt any more.</p>
      )}
    </Dialog>
  );
}

function Doubt({ device, ability }: { device: Device; ability: Schemas["Ability"] }) {
  const tell = useTellTrial(device.id);
  const file = under(`/api/household/devices/${device.id}/trials?line=${encodeURIComponent(ability.key)}`);
  const say = (works: boolean) => tell.mutate({ line: ability.key, works });
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-2 py-2.5">
      <span className="flex min-w-[220px] flex-1 gap-1.5">
        <SureMark sure={ability.sure} />
        <span>
          {ability.text.charAt(0).toUpperCase() + ability.text.slice(1)}
          <span className="block text-[13px] text-quiet">{ability.why}</span>
          {tell.isError && (
            <span role="alert" className="block text-[13px] text-madder">
              {tell.error.message}
            </span>
          )}
        </span>
      </span>
      {ability.test_file ? (
        <span className="flex items-center gap-2">
          <Button size="small" asChild>
            <a href={file} download aria-label={`Test file for ${ability.text}`}>
              <Download size={14} /> Test file
            </a>
          </Button>
          <Button
            size="small"
            disabled={tell.isPending}
            onClick={() => say(true)}
            aria-label={`It played: ${ability.text}`}
          >
            It played
          </Button>
          <Button
            size="small"
            disabled={tell.isPending}
            onClick={() => say(false)}
            aria-label={`It did not: ${ability.text}`}
          >
            It did not
          </Button>
        </span>
      ) : (
        <span className="text-[13px] text-quiet">Rheon can’t make a file of this</span>
      )}
    </li>
  );
}
