// @vitest-environment jsdom
import { QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";

import { useArtwork, useSetArtwork } from "./artwork";
import { newCache } from "./cache";
import { client } from "./client";

const NONE = { cover: null, alike: [], frames: [], looking: false, own: false };

function Chosen() {
  const { data, refetch } = useArtwork(1);
  const { mutate } = useSetArtwork(1);
  return (
    <>
      <p>{data ? (data.cover?.picture ?? "none") : "reading"}</p>
      <button onClick={() => mutate({ cover: { picture: "own", shape: "1:1" } })}>Choose</button>
      <button onClick={() => void refetch()}>Read</button>
    </>
  );
}

afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

it("keeps what was chosen where an answer from before comes in", async () => {
  const said: ((answer: unknown) => void)[] = [];
  vi.spyOn(client, "GET").mockImplementation((() => new Promise((resolve) => said.push(resolve))) as never);
  vi.spyOn(client, "PUT").mockImplementation((() => new Promise(() => undefined)) as never);
  const quiet = () => act(() => new Promise<void>((rest) => setTimeout(rest)));
  const say = async () => {
    said.shift()?.({ data: NONE, response: new Response() });
    await quiet();
  };
  render(
    <QueryClientProvider client={newCache()}>
      <Chosen />
    </QueryClientProvider>,
  );
  await quiet();
  await say();
  expect(screen.getByText("none")).toBeTruthy();
  fireEvent.click(screen.getByText("Read"));
  fireEvent.click(screen.getByText("Choose"));
  await quiet();
  expect(screen.getByText("own")).toBeTruthy();
  await say();
  expect(screen.getByText("own")).toBeTruthy();
});
