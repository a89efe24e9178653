import { useSetPace } from "../../api/worklist";
import { Button } from "../../ui/button";
import { NoticeBar } from "./notice-bar";

/** Lets nothing more begin; what is being made ends first (`mayEnd`), or stands still at once. */
export function HoldBack({ mayEnd }: { mayEnd: boolean }) {
  const pace = useSetPace();
  return (
    <>
      {pace.isError && (
        <span role="alert" className="text-madder">
          {pace.error.message}
        </span>
      )}
      {mayEnd && (
        <Button onClick={() => pace.mutate({ held: true, pausing: false })} disabled={pace.isPending}>
          Stop after this one
        </Button>
      )}
      <Button onClick={() => pace.mutate({ held: true, pausing: true })} disabled={pace.isPending}>
        Pause all
      </Button>
    </>
  );
}

/** That nothing begins, and the way out of it. */
export function Held({ ending }: { ending: boolean }) {
  const pace = useSetPace();
  const why = ending
    ? "What is being made comes to its end. Then nothing begins until you go on."
    : "Everything stands still, and nothing begins until you go on. It stays so when Rheon is started again.";
  return (
    <NoticeBar why={pace.isError ? pace.error.message : why}>
      <Button
        look="primary"
        onClick={() => pace.mutate({ held: false, pausing: false })}
        disabled={pace.isPending}
      >
        Go on
      </Button>
    </NoticeBar>
  );
}
