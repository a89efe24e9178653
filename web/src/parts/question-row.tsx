import type { Schemas } from "../api/client";
import { Segments } from "../ui/segments";

interface Props {
  question: Schemas["Question"];
  /** `null` for “don’t know”, `undefined` while nobody has answered. */
  said: boolean | null | undefined;
  onSay: (said: boolean | null) => void;
}

const ANSWERS = ["yes", "no", "don’t know"] as const;
const VALUES = { yes: true, no: false, "don’t know": null } as const;

/** One plain question with its three answers. */
export function QuestionRow({ question, said, onSay }: Props) {
  const value = ANSWERS.find((answer) => VALUES[answer] === said) ?? null;
  return (
    <li className="flex flex-wrap items-center justify-between gap-x-4 gap-y-2 py-2.5">
      <span className="min-w-[240px] flex-1">
        <span className="block">{question.text}</span>
        <span className="block text-[13px] text-quiet">{question.help}</span>
      </span>
      <Segments
        label={question.text}
        value={value}
        options={ANSWERS}
        onChange={(next) => onSay(VALUES[next])}
      />
    </li>
  );
}
