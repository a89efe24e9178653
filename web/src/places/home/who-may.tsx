import type { Schemas } from "../../api/client";
import { useSignOut, useSignOutOthers } from "../../api/home";
import { Button } from "../../ui/button";

const COMMAND = "rheon passphrase";

/** Who can open this page, and ending what is open elsewhere. */
export function WhoMay({ home }: { home: Schemas["Home"] }) {
  const others = useSignOutOthers();
  const out = useSignOut();
  const count = home.signed_in_elsewhere;
  if (!home.has_passphrase) {
    return (
      <p className="max-w-[62ch]">
        Whoever sits at this machine; it answers to no other. To open it from others too, set a passphrase in
        a shell with <Command>{COMMAND}</Command>, then start Rheon with{" "}
        <Command>rheon serve --listen 0.0.0.0</Command>.
      </p>
    );
  }
  return (
    <>
      <p className="max-w-[62ch]">
        Whoever knows the passphrase.{" "}
        {count
          ? `${count} other ${count === 1 ? "browser is" : "browsers are"} signed in.`
          : "No other browser is signed in."}{" "}
        A new one is set with <Command>{COMMAND}</Command>; that signs everybody out.
      </p>
      <div className="mt-3 flex flex-wrap gap-3">
        <Button onClick={() => out.mutate()}>Sign out here</Button>
        {count > 0 && (
          <Button disabled={others.isPending} onClick={() => others.mutate()}>
            Sign out {count === 1 ? "the other browser" : `the ${count} others`}
          </Button>
        )}
      </div>
    </>
  );
}

function Command({ children }: { children: string }) {
  return (
    <code className="rounded border border-hairline bg-raised px-1.5 py-0.5 text-[12.5px] whitespace-nowrap">
      {children}
    </code>
  );
}
