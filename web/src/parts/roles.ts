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

export const roleWord = (role: Role): string => WORDS[role];
