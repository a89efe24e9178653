// @vitest-environment jsdom
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { UndoProvider, useUndo } from "./undo";

const removeForGood = vi.hoisted(() => vi.fn());
vi.mock("../api/removal", () => ({ useRemoval: () => ({ mutateAsync: removeForGood }) }));

function Shelf() {
  const { remove, gone } = useUndo();
  return [1, 2].map(
    (id) =>
      !gone("source", id) && (
        <button key={id} onClick={() => remove({ kind: "source", ids: [id], text: `${id} is gone` })}>
          {`source ${id}`}
        </button>
      ),
  );
}

const there = () => screen.queryAllByText(/^source/).map((found) => found.textContent);
const take = (id: number) => fireEvent.click(screen.getByText(`source ${id}`));
const afterMs = (ms: number) => act(() => vi.advanceTimersByTimeAsync(ms));

describe("what is removed", () => {
  beforeEach(() => {
    vi.useFakeTimers();
    removeForGood.mockReset().mockResolvedValue(undefined);
    sessionStorage.clear();
    render(<UndoProvider children={<Shelf />} />);
  });
  afterEach(() => {
    cleanup();
    vi.useRealTimers();
  });

  it("hides at once and comes back when it is taken back", async () => {
    take(1);
    expect(there()).toEqual(["source 2"]);
    fireEvent.click(screen.getByText("Undo"));
    expect(there()).toEqual(["source 1", "source 2"]);
    await afterMs(20_000);
    expect(removeForGood).not.toHaveBeenCalled();
  });

  it("is gone for good after eight seconds and not before", async () => {
    take(1);
    await afterMs(7_999);
    expect(removeForGood).not.toHaveBeenCalled();
    await afterMs(1);
    expect(removeForGood.mock.calls).toEqual([[{ kind: "source", ids: [1] }]]);
    expect(there()).toEqual(["source 2"]);
    expect(sessionStorage.length).toBe(0);
  });

  it("is gone for good with the next one", async () => {
    take(1);
    take(2);
    await afterMs(0);
    expect(removeForGood.mock.calls).toEqual([[{ kind: "source", ids: [1] }]]);
    expect(there()).toEqual([]);
  });

  it("is shown again where the server refuses", async () => {
    removeForGood.mockRejectedValue(new Error("no"));
    take(1);
    await afterMs(8_000);
    expect(there()).toEqual(["source 1", "source 2"]);
  });

  it("is noted until it is done, for a page that is left too quickly", async () => {
    take(1);
    expect(sessionStorage.getItem("rheon:removals")).toBe('{"kind":"source","ids":[1]}');
    fireEvent(window, new Event("pagehide"));
    await afterMs(0);
    expect(removeForGood).toHaveBeenCalledOnce();
    expect(sessionStorage.length).toBe(0);
  });
});
