import type { Schemas } from "../../api/client";
import { packLanes } from "../../domain/packing";
import type { TimeScale } from "../../domain/scales";

type Outline = Schemas["TitleOutline"];

export interface Lane {
  key: string;
  large: boolean;
  strips: { strip: Outline; start: number; width: number }[];
}

const MAIN = new Set(["feature", "play_all", "duplicate"]);

/** The lanes of one source: films and play-alls alone, episodes in a row, everything small below. */
export function lanesOf(titles: Outline[], scale: TimeScale): Lane[] {
  const gap = scale.span * 0.006;
  const alone = titles.filter((title) => MAIN.has(title.role));
  const episodes = titles.filter((title) => title.role === "episode");
  const small = titles.filter((title) => title.role === "extra" || title.role === "menu");
  const lanes: Lane[] = alone.map((strip) => ({
    key: `t${strip.id}`,
    large: true,
    strips: [{ strip, start: 0, width: Math.max(strip.duration_s, scale.span * 0.17) }],
  }));
  for (const [index, strips] of packLanes(episodes, scale.end, scale.span * 0.16, gap).entries())
    lanes.push({ key: `e${index}`, large: true, strips });
  for (const [index, strips] of packLanes(small, scale.end, scale.span * 0.15, gap).entries())
    lanes.push({ key: `s${index}`, large: false, strips });
  return lanes;
}
