import { useAllowLookUp, useLookUpChoice } from "../../api/look-up";
import { Checkbox } from "../../ui/checkbox";
import { NotYet } from "../../ui/states";

/** Whether the look-up service may be asked, and what it gets then. */
export function LookUpChoice() {
  const choice = useLookUpChoice();
  const allow = useAllowLookUp();
  if (!choice.data) return <NotYet query={choice} what="what is allowed" />;
  const { service, allowed } = choice.data;
  if (!service)
    return (
      <p className="text-quiet">
        None is set. To use one, write its address into rheon.toml as <code>look_up</code>; docs/look-up.md
        says what it has to answer.
      </p>
    );
  return (
    <div>
      <label className="inline-flex items-center gap-2.5 font-semibold">
        <Checkbox
          label={`Allow asking ${service}`}
          checked={allowed}
          onChange={(next) => allow.mutate(next)}
        />
        Allow asking {service}
      </label>
      <p className="mt-0.5 ml-[26px] text-[13px] text-quiet">
        Each time you are shown the words that are sent, and nothing is taken unseen. Names of files, lengths
        and pictures stay here.
      </p>
      {allow.isError && (
        <p role="alert" className="mt-1 text-[13px] text-madder">
          {allow.error.message}
        </p>
      )}
    </div>
  );
}
