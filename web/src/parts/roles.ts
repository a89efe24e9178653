import type { Schemas } from "../api/client";

type Role = Schemas["Role"];

const WORDS: Record<Role, string> = {
  feature: "film",
  episode: "episode",
  play_all: "play all",
  extra: "extra",
  menu: "menu",
  duplicate: "copy",
};

/** A title's number; a part has its whole's number and its own: `1·2`. A join has none of its source's. */
export function numberText(title: { number: number; part_of: number | null; part_count?: number }): string {
  if (title.part_count) return "join";
  return title.part_of === null
    ? String(title.number)
    : `${title.part_of}·${title.number - 100 * title.part_of}`;
}

export const roleWord = (role: Role): string => WORDS[role];
