import { describe, expect, it } from "vitest";

import { answer, keptByTag, Refused } from "./client";

const response = (status: number) => new Response(null, { status });

describe("an answer", () => {
  it("is the data where the server agreed", async () => {
    expect(await answer(Promise.resolve({ data: { ok: 1 }, response: response(200) }))).toEqual({ ok: 1 });
  });

  it("is the server's own sentence where it refused", async () => {
    const error = { code: "bad_pin", message: "This title has no audio track 9." };
    const refused = await answer(Promise.resolve({ error, response: response(422) })).catch(
      (caught: unknown) => caught,
    );
    expect(refused).toBeInstanceOf(Refused);
    expect(refused).toMatchObject({ code: "bad_pin", message: error.message });
  });

  it("is a sentence of ours where the server said nothing or is not there", async () => {
    await expect(answer(Promise.resolve({ response: response(500) }))).rejects.toThrow(
      /Something went wrong/,
    );
    await expect(answer(Promise.reject(new TypeError("network")))).rejects.toThrow(/does not answer/);
  });
});

describe("pages kept by their tag", () => {
  const tagged = (tag: string, body: unknown) =>
    Promise.resolve({ response: new Response(JSON.stringify(body), { headers: { ETag: tag } }) });

  it("are the very same value until the tag is another one", async () => {
    const read = keptByTag<number[]>();
    const first = await read(tagged("a", [1]));
    expect(await read(tagged("a", [1]))).toBe(first);
    expect(await read(tagged("b", [2]))).toEqual([2]);
    expect(await read(tagged("a", [1]))).not.toBe(first);
  });

  it("are refused like any other answer", async () => {
    const read = keptByTag<number[]>();
    const refusal = { error: { code: "gone", message: "Gone." }, response: response(404) };
    await expect(read(Promise.resolve(refusal))).rejects.toThrow("Gone.");
  });
});
