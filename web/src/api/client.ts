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

export const client = createClient<paths>({ baseUrl: `${PREFIX}/` });
client.use(withToken);

/** The data of an answer, or a `Refused` with the server's own sentence. */
export async function answer<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const { data, error, response } = await call.catch(() => {
    throw new Refused("unreachable", "Rheon's server does not answer. Is it still running?");
  });
  if (!response.ok) {
    if (response.status === 401) dispatchEvent(new Event("rheon:signed-out"));
    const said = error as { code?: string; message?: string } | undefined;
    throw new Refused(said?.code ?? "unforeseen", said?.message ?? "Something went wrong in the server. Try again.");
  }
  return data as T;
}
