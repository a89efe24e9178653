import type { Schemas } from "../../api/client";
import { useChooseEnd } from "../../api/worklist";
import { clockText } from "../../domain/durations";
import { Button } from "../../ui/button";
import { Select } from "../../ui/select";
import { NoticeBar } from "./notice-bar";

const NOTHING = "nothing";

/** What is done when all is made, of what the settings name. */
export function EndChoice({ end }: { end: Schemas["End"] }) {
  const choose = useChooseEnd();
  const choices = [
    { value: NOTHING, text: "then nothing" },
    ...end.choices.map((name) => ({ value: name, text: `then ${name}` })),
  ];
  return (
    <>
      {choose.isError && (
        <span role="alert" className="text-madder">
          {choose.error.message}
        </span>
      )}
      <Select
        label="When all is made"
        value={end.chosen || NOTHING}
        choices={choices}
        onChange={(name) => choose.mutate(name === NOTHING ? "" : name)}
        disabled={choose.isPending}
      />
    </>
  );
}

/** That it is about to be done, with a way to stop it; or that it did not work. */
export function EndNear({ end }: { end: Schemas["End"] }) {
  const choose = useChooseEnd();
  if (end.failed)
    return (
      <NoticeBar why={end.failed}>
        <Button onClick={() => choose.mutate("")} disabled={choose.isPending}>
          All right
        </Button>
      </NoticeBar>
    );
  if (!end.at) return null;
  return (
    <NoticeBar why={`All is made. ${end.chosen}: at ${clockText(new Date(end.at))}, within about a minute.`}>
      <Button look="primary" onClick={() => choose.mutate("")} disabled={choose.isPending}>
        Don’t
      </Button>
    </NoticeBar>
  );
}
