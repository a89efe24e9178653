// @vitest-environment jsdom
import { QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, it } from "vitest";

import { newCache } from "./cache";
import { useChange } from "./queries";

afterEach(cleanup);

it("shows what was chosen before anything else happens, though the server has not heard of it", async () => {
  function Choice() {
    const choose = useChange<boolean, never>(() => new Promise(() => undefined), []);
    const chosen = choose.isPending && choose.variables;
    return (
      <input type="checkbox" checked={chosen} onChange={(event) => choose.mutate(event.target.checked)} />
    );
  }
  render(
    <QueryClientProvider client={newCache()}>
      <Choice />
    </QueryClientProvider>,
  );
  const box = screen.getByRole<HTMLInputElement>("checkbox");
  await act(async () => {
    fireEvent.click(box);
    await Promise.resolve(); // what waits for its turn (a timer, an event) has not had it
  });
  expect(box.checked).toBe(true);
});
