// @vitest-environment jsdom
import { afterEach, expect, it } from "vitest";

import { moveFocus } from "./crossing-window";

const table = document.createElement("div");
afterEach(() => table.remove());

/** Rows of so many cells; the focus on one of them, and where each key takes it. */
function goes(rows: number[], from: string, keys: string[]): string[] {
  table.innerHTML = rows
    .map((cells, row) =>
      Array.from({ length: cells }, (_, at) => `<a href="#" data-row="${row}">${row}:${at}</a>`).join(""),
    )
    .join("");
  document.body.append(table);
  const cell = [...table.querySelectorAll("a")].find((one) => one.textContent === from);
  cell?.focus();
  return keys.map((key) => {
    const event = new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true });
    const heard = (native: KeyboardEvent) =>
      moveFocus({
        key: native.key,
        target: document.activeElement ?? table,
        currentTarget: table,
        preventDefault: () => native.preventDefault(),
      });
    table.addEventListener("keydown", heard, { once: true });
    document.activeElement?.dispatchEvent(event);
    return `${document.activeElement?.textContent}${event.defaultPrevented ? "" : " stays"}`;
  });
}

it("goes to the neighbouring cell by the arrow keys, and stays at the edges", () => {
  expect(goes([3, 3], "0:1", ["ArrowRight", "ArrowDown", "ArrowLeft", "ArrowUp"])).toEqual([
    "0:2",
    "1:2",
    "1:1",
    "0:1",
  ]);
  expect(goes([2], "0:0", ["ArrowLeft", "ArrowUp", "ArrowDown", "x"])).toEqual(
    Array.from({ length: 4 }, () => "0:0 stays"),
  );
});

it("goes to the last cell of a row that is shorter", () => {
  expect(goes([3, 1], "0:2", ["ArrowDown"])).toEqual(["1:0"]);
});
