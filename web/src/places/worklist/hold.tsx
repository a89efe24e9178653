import { useSetPace } from "../../api/worklist";
import { Button } from "../../ui/button";
import { NoticeBar } from "./notice-bar";

/** Lets nothing more begin; what is being made (`ending` of them) ends first, or stands still at once. */
export function HoldBack({ ending }: { ending: number }) {
  const pace = useSetPace();
  return (
    <>
      {pace.isError && (
        <span role="alert" className="text-madder">
          {pace.error.message}
        </span>
      )}
      {ending > 0 && (
        <Button onClick={() => pace.mutate({ held: true, pausing: false })} disabled={pace.isPending}>
          Stop after {ending === 1 ? "this one" : "these"}
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
