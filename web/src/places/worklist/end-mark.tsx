import { Check, CircleAlert, CircleSlash } from "lucide-react";

import type { Schemas } from "../../api/client";

type State = Schemas["Job"]["state"];

const MARKS = {
  done: <Check size={16} className="text-moss" aria-label="done" />,
  failed: <CircleAlert size={16} className="text-madder" aria-label="failed" />,
  interrupted: <CircleAlert size={16} className="text-madder" aria-label="interrupted" />,
  stopped: <CircleSlash size={16} className="text-quiet" aria-label="stopped" />,
} as const;

const isEnd = (state: State): state is keyof typeof MARKS => state in MARKS;

/** How a job ended. */
export const EndMark = ({ state }: { state: State }) => (isEnd(state) ? MARKS[state] : <span />);
