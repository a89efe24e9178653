// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";

import { QuestionRow } from "./question-row";

const QUESTION = { id: "touch", text: "Does one touch its screen?", help: "Else it has keys." };

describe("a question", () => {
  afterEach(cleanup);

  it.each([
    ["yes", true],
    ["no", false],
    ["don’t know", null],
  ])("answered with %s says so, and shows it", (text, said) => {
    const onSay = vi.fn();
    const { rerender } = render(<QuestionRow question={QUESTION} said={undefined} onSay={onSay} />);
    expect(screen.queryByRole("radio", { checked: true })).toBeNull();
    fireEvent.click(screen.getByRole("radio", { name: text }));
    expect(onSay.mock.calls).toEqual([[said]]);
    rerender(<QuestionRow question={QUESTION} said={said} onSay={onSay} />);
    expect(screen.getByRole("radio", { checked: true }).textContent).toBe(text);
  });
});
