import type { Schemas } from "../../api/client";

/** What is cut away of a picture as a person works on it: sides of the picture as it is seen. Pure. */

export type Sides = Schemas["Sides"];
export type Side = keyof Sides;
export type Framing = Schemas["Framing"];

export const SIDES: readonly Side[] = ["top", "bottom", "left", "right"];
export const NOTHING: Sides = { top: 0, bottom: 0, left: 0, right: 0 };
/** Of the picture's width or height: an edge that comes so near to one that was found takes its place. */
const SNAP_SHARE = 0.012;
/** So much is always left: the least that can be made. */
const LEAST_PX = 64;

const quarter = ({ top, bottom, left, right }: Sides): Sides => ({
  top: left,
  right: top,
  bottom: right,
  left: bottom,
});

function turned(sides: Sides, quarters: number): Sides {
  let found = sides;
  for (let n = 0; n < quarters % 4; n++) found = quarter(found);
  return found;
}

/** Sides of the stored picture as they lie when it is turned clockwise by so many degrees. */
export const seen = (stored: Sides, rotation: number) => turned(stored, rotation / 90);

/** The sides of the stored picture that lie so when it is turned. */
export const stored = (sides: Sides, rotation: number) => turned(sides, 4 - rotation / 90);

export const isSame = (one: Sides, other: Sides) => SIDES.every((side) => one[side] === other[side]);

const opposite = (side: Side): Side =>
  (({ top: "bottom", bottom: "top", left: "right", right: "left" }) as const)[side];

/** How far the picture goes from this side to the other one, in stored pixels. */
export const across = (side: Side, framing: Framing) =>
  side === "top" || side === "bottom" ? framing.height : framing.width;

/** One side moved to so many pixels, in pairs, with enough left between it and the opposite one. */
export function withSide(sides: Sides, side: Side, to: number, framing: Framing): Sides {
  const most = across(side, framing) - sides[opposite(side)] - LEAST_PX;
  const pairs = 2 * Math.round(Math.min(Math.max(0, to), Math.max(0, most)) / 2);
  return { ...sides, [side]: pairs };
}

/** Where an edge comes to lie that is let go near one of those that were found, or near the picture's own. */
export function snapped(side: Side, to: number, framing: Framing): number {
  const near = across(side, framing) * SNAP_SHARE;
  const marks = [framing.found, framing.often].flatMap((sides) =>
    sides ? [seen(sides, framing.rotation)[side]] : [],
  );
  return [0, ...marks].find((mark) => Math.abs(mark - to) <= near) ?? to;
}

/** The pin for what is cut away as it is seen: `top,bottom,left,right` of the stored picture. */
export function cropPin(sides: Sides, rotation: number): string {
  const { top, bottom, left, right } = stored(sides, rotation);
  return isSame(sides, NOTHING) ? "none" : `${top},${bottom},${left},${right}`;
}

/** Whether more is cut than is black in every picture. */
export const cutsPicture = (sides: Sides, framing: Framing) => {
  const black = framing.found ? seen(framing.found, framing.rotation) : NOTHING;
  return SIDES.some((side) => sides[side] > black[side] + 2);
};
