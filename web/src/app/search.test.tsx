// @vitest-environment jsdom
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { useState } from "react";
import { MemoryRouter, useLocation } from "react-router";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { Search } from "./search";

const sources = vi.hoisted(() => ({ data: undefined as unknown }));
vi.mock("../api/queries", () => ({ useSources: () => sources }));

const LIST = [
  {
    name: "Lantern Street S1",
    titles: [1, 2, 3].map((n) => ({
      id: 10 + n,
      name: `Lantern Street S1, episode ${n}`,
      role: "episode",
      duration_s: 20,
    })),
  },
];

function Page() {
  const [open, setOpen] = useState(true);
  const { pathname } = useLocation();
  return (
    <>
      <Search open={open} onOpenChange={setOpen} />
      <output>{pathname}</output>
    </>
  );
}

const type = (text: string) => fireEvent.change(screen.getByRole("textbox"), { target: { value: text } });
const enter = () => fireEvent.keyDown(screen.getByRole("textbox"), { key: "Enter" });
const place = async () => {
  await act(() => vi.runAllTimersAsync());
  return screen.getByRole("status", { hidden: true }).textContent;
};

describe("the search", () => {
  beforeEach(() => {
    vi.useFakeTimers();
    sources.data = LIST;
  });
  afterEach(() => {
    cleanup();
    vi.useRealTimers();
  });
  const shown = () => render(<MemoryRouter initialEntries={["/shelf"]} children={<Page />} />);

  it("goes to the first title that fits", async () => {
    shown();
    type("episode 3");
    enter();
    expect(await place()).toBe("/shelf/titles/13");
    expect(screen.queryByRole("textbox")).toBeNull();
  });

  it("goes there too where Enter came before the list did", async () => {
    sources.data = undefined;
    const { rerender } = shown();
    type("episode 2");
    enter();
    expect(await place()).toBe("/shelf");
    sources.data = LIST;
    rerender(<MemoryRouter initialEntries={["/shelf"]} children={<Page />} />);
    expect(await place()).toBe("/shelf/titles/12");
  });

  it("goes nowhere where what was typed changed after Enter", async () => {
    sources.data = undefined;
    const { rerender } = shown();
    type("episode 2");
    enter();
    type("episode");
    sources.data = LIST;
    rerender(<MemoryRouter initialEntries={["/shelf"]} children={<Page />} />);
    expect(await place()).toBe("/shelf");
    expect(screen.getAllByRole("listitem")).toHaveLength(3);
  });

  it("says so where nothing is called like that", () => {
    shown();
    type("xylophone");
    expect(screen.getByText("No title is called like that.")).toBeTruthy();
  });
});
