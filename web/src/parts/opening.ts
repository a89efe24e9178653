import { useEffect, useMemo, useSyncExternalStore } from "react";
import { useNavigate } from "react-router";

import { useWorklist } from "../api/worklist";
import { opened } from "../domain/opening";

const STORED = "rheon-open";
const CHANGED = "rheon:opening";

const stored = () => sessionStorage.getItem(STORED) ?? "[]";

function read(text: string): number[] {
  const said: unknown = JSON.parse(text);
  return Array.isArray(said) ? said.filter((id): id is number => typeof id === "number") : [];
}

function keep(ids: readonly number[]) {
  sessionStorage.setItem(STORED, JSON.stringify(ids));
  dispatchEvent(new Event(CHANGED));
}

function useStored() {
  const text = useSyncExternalStore((changed) => {
    addEventListener(CHANGED, changed);
    return () => removeEventListener(CHANGED, changed);
  }, stored);
  return useMemo(() => read(text), [text]);
}

/** Whether this page goes to a job's file once that is made; kept for as long as the page's tab is open. */
export function useOpening(id: number) {
  const wanted = useStored();
  const on = wanted.includes(id);
  return { on, set: (open: boolean) => keep(open ? [...wanted, id] : wanted.filter((one) => one !== id)) };
}

/** Goes to files that were to be opened when they are made. */
export function useOpenedWhenDone() {
  const wanted = useStored();
  const waits = wanted.length > 0;
  const { data, isFetching } = useWorklist({ enabled: waits });
  const navigate = useNavigate();
  const jobs = data?.jobs;
  useEffect(() => {
    if (!waits || !jobs || isFetching) return;
    const { ready, left } = opened(wanted, jobs);
    if (left.length < wanted.length) keep(left);
    if (ready !== undefined) void navigate(`/outbox/of-job/${ready}`);
  }, [waits, wanted, jobs, isFetching, navigate]);
}
