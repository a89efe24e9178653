import createClient, { type Middleware } from "openapi-fetch";

import { PREFIX } from "./base";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];

/** What the server says when it refuses: a code for programs and a sentence for people. */
export class Refused extends Error {
  constructor(
    readonly code: string,
    message: string,
  ) {
    super(message);
  }
}

function csrfToken(): string {
  return /(?:^|; )csrftoken=([^;]*)/.exec(document.cookie)?.[1] ?? "";
}

const withToken: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrfToken());
    return request;
  },
};

/** All that a page has under way with `keepalive` may carry 64 kB together (Fetch standard, 4.6): most changes are tiny. */
const CARRIED_BYTES = 4_000;

/** A change arrives though the page is left or read anew the moment after, unless it carries a lot. */
async function send(request: Request): Promise<Response> {
  if (request.method === "GET") return fetch(request);
  const { byteLength } = await request.clone().arrayBuffer();
  return fetch(request, { keepalive: byteLength <= CARRIED_BYTES });
}

export const client = createClient<paths>({ baseUrl: `${PREFIX}/`, fetch: send });
client.use(withToken);

function isFault(error: unknown): error is { code: string; message: string } {
  return typeof error === "object" && error !== null && "code" in error && "message" in error;
}

/** The data of an answer, or a `Refused` with the server's own sentence. */
export async function answer<T>(
  call: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  const { data, error, response } = await call.catch(() => {
    throw new Refused("unreachable", "Rheon's server does not answer. Is it still running?");
  });
  if (!response.ok) {
    if (response.status === 401) dispatchEvent(new Event("rheon:signed-out"));
    throw isFault(error)
      ? new Refused(error.code, error.message)
      : new Refused("unforeseen", "Something went wrong in the server. Try again.");
  }
  // eslint-disable-next-line no-restricted-syntax -- an answer without a body is declared as one (204: `never`)
  return data as T;
}

/**
 * Reads answers that were asked for unparsed (`parseAs: "stream"`). Where the entity tag is the one of the answer before
 * from the same address, the data are the very same value: nothing is parsed, compared or drawn anew.
 */
export function keptByTag<T>() {
  const kept = new Map<string, { tag: string; data: T }>();
  return async (call: Promise<{ error?: unknown; response: Response }>): Promise<T> => {
    const response = await answer(call.then(({ error, response }) => ({ data: response, error, response })));
    const tag = response.headers.get("ETag");
    const old = kept.get(response.url);
    if (old && old.tag === tag) {
      await response.body?.cancel();
      return old.data;
    }
    const data: T = await response.json();
    if (tag !== null) kept.set(response.url, { tag, data });
    return data;
  };
}
