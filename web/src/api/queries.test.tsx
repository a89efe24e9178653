// @vitest-environment jsdom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";

import { useChange } from "./queries";

const cache = new QueryClient();
const within = (child: React.ReactNode) => <QueryClientProvider client={cache} children={child} />;

describe("a change", () => {
  afterEach(cleanup);

  it("is followed up even where what asked for it is gone when it is done", async () => {
    let finish: (said: string) => void = () => undefined;
    const onDone = vi.fn();
    function Ask() {
      const change = useChange(() => new Promise<string>((resolve) => (finish = resolve)), [], onDone);
      return <button onClick={() => change.mutate(undefined)}>Ask</button>;
    }
    const page = render(within(<Ask />));
    await act(async () => {
      fireEvent.click(screen.getByText("Ask"));
      await Promise.resolve();
    });
    page.rerender(within(<p>something else</p>));
    expect(onDone).not.toHaveBeenCalled();
    await act(async () => {
      finish("done");
      await new Promise((rest) => setTimeout(rest));
    });
    expect(onDone).toHaveBeenCalledOnce();
  });
});
