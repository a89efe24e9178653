// @vitest-environment jsdom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";

import { client } from "./client";
import { useMoveJobs, useWorklist } from "./worklist";

const rows = (...ids: number[]) => ({ jobs: ids.map((id) => ({ id, state: "waiting", in_work: false })) });
const quiet = async () => act(() => new Promise((rest) => setTimeout(rest)));

function List() {
  const { data, refetch } = useWorklist();
  const { mutate } = useMoveJobs();
  return (
    <>
      <p>{data?.jobs.map(({ id }) => id).join(" ")}</p>
      <button onClick={() => mutate({ ids: new Set([3]), before: 1 })}>Move</button>
      <button onClick={() => void refetch()}>Read</button>
    </>
  );
}

describe("a move", () => {
  afterEach(() => {
    cleanup();
    vi.restoreAllMocks();
  });

  it("is shown in what was read before it arrived, and moves arrive in their order", async () => {
    const said: ((answer: unknown) => void)[] = [];
    const told: ((answer: unknown) => void)[] = [];
    const later = (kept: typeof said) => () => new Promise((resolve) => kept.push(resolve));
    vi.spyOn(client, "GET").mockImplementation(later(said) as never);
    const post = vi.spyOn(client, "POST").mockImplementation(later(told) as never);
    const say = async (kept: typeof said, data: unknown) => {
      await act(async () => {
        kept.shift()?.({ data, response: new Response() });
        await Promise.resolve();
      });
      await quiet();
    };
    render(
      <QueryClientProvider client={new QueryClient()}>
        <List />
      </QueryClientProvider>,
    );
    await say(said, rows(1, 2, 3));
    fireEvent.click(screen.getByText("Read"));
    await quiet();
    fireEvent.click(screen.getByText("Move"));
    await quiet();
    expect(screen.getByText("3 1 2")).toBeTruthy();
    await say(said, rows(1, 2, 3)); // from before the move
    expect(screen.getByText("3 1 2")).toBeTruthy();
    fireEvent.click(screen.getByText("Move"));
    await quiet();
    expect(post).toHaveBeenCalledTimes(1);
    await say(told, undefined);
    expect(post).toHaveBeenCalledTimes(2);
    await say(told, undefined);
    await say(said, undefined); // given up for the newest
    await say(said, rows(2, 1, 3)); // somebody else had another order in mind
    expect(screen.getByText("2 1 3")).toBeTruthy();
  });
});
