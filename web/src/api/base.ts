/**
 * The path that this installation lies under behind a proxy; empty where it has none. The server writes it
 * into the page.
 */
export const PREFIX =
  typeof document === "undefined"
    ? ""
    : (document.querySelector<HTMLMetaElement>('meta[name="rheon-prefix"]')?.content ?? "");

/** An address of this installation, for what the browser itself loads. */
export const under = (path: string) => PREFIX + path;
