export interface Strip {
  id: number;
  duration_s: number;
}

/**
 * Lays strips into lanes one after another without overlap. `least` is the smallest width a strip is drawn with and
 * `gap` the space between two, both in seconds of the scale.
 */
export function packLanes<T extends Strip>(strips: T[], end: number, least: number, gap: number) {
  const lanes: { strip: T; start: number; width: number }[][] = [];
  for (const strip of strips) {
    const width = Math.max(strip.duration_s, least);
    const lane = lanes.at(-1);
    const last = lane?.at(-1);
    const start = last ? last.start + last.width + gap : 0;
    if (!lane || start + width > end) lanes.push([{ strip, start: 0, width }]);
    else lane.push({ strip, start, width });
  }
  return lanes;
}
