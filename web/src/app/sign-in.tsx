import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useEffect, useState } from "react";

import { useSession, useSignIn } from "../api/home";
import { Button } from "../ui/button";
import { Mark } from "../ui/mark";
import { Notice } from "../ui/notice";
import { Failed, Loading } from "../ui/states";

/** Lets through whoever may be here; asks the others for the passphrase. */
export function Gate({ children }: { children: ReactNode }) {
  const session = useSession();
  const cache = useQueryClient();
  useEffect(() => {
    const ask = () => void cache.invalidateQueries({ queryKey: ["session"] });
    addEventListener("rheon:signed-out", ask);
    return () => removeEventListener("rheon:signed-out", ask);
  }, [cache]);
  if (session.isPending) return <Loading what="Rheon" />;
  // an answer that is only out of date says more than none
  if (session.isError && !session.data)
    return <Failed error={session.error} onRetry={() => void session.refetch()} />;
  return session.data?.signed_in ? children : <SignIn />;
}

function SignIn() {
  const [text, setText] = useState("");
  const signIn = useSignIn();
  return (
    <main className="flex min-h-dvh items-center justify-center px-4">
      <form
        className="w-[min(24rem,100%)] rounded-card border border-hairline bg-raised px-6 py-7"
        onSubmit={(event) => {
          event.preventDefault();
          signIn.mutate(text, { onError: () => setText("") });
        }}
      >
        <Mark className="mb-4 w-9" />
        <h1 className="text-xl">This Rheon asks for its passphrase</h1>
        <label className="mt-4 block">
          <span className="mb-1 block text-quiet">Passphrase</span>
          <input
            type="password"
            autoFocus
            autoComplete="current-password"
            value={text}
            onChange={(event) => setText(event.target.value)}
            className="h-9 w-full rounded-lg border border-hairline bg-ground px-2.5 hover:border-quiet"
          />
        </label>
        {signIn.isError && (
          <div className="mt-3">
            <Notice look="fault">{signIn.error.message}</Notice>
          </div>
        )}
        <Button look="primary" type="submit" className="mt-5 w-full" disabled={!text || signIn.isPending}>
          {signIn.isPending ? "Looking …" : "Come in"}
        </Button>
      </form>
    </main>
  );
}
