import { useEffect, useState, useSyncExternalStore } from "react";

import { under } from "../api/base";

const AT_ONCE = 3;

/** The small frames of a title, fetched one after the other from where somebody looks; told when another one is there. */
class ScrubFrames {
  private readonly asked = new Set<number>();
  private readonly there = new Set<number>();
  private readonly told = new Set<() => void>();
  private running = 0;
  private place = 0;
  private wanted = false;

  constructor(
    private readonly titleId: number,
    private readonly count: number,
    private readonly strip: number,
  ) {}

  readonly subscribe = (tell: () => void) => {
    this.told.add(tell);
    return () => void this.told.delete(tell);
  };

  readonly loaded = () => this.there.size;

  /** Fetch, beginning with those around a place (0 to 1); the strip's own ones come before all others. */
  begin(place: number) {
    this.place = place;
    this.wanted = true;
    while (this.running < AT_ONCE && this.next()) continue;
  }

  end() {
    this.wanted = false;
  }

  address = (number: number) => under(`/api/shelf/titles/${this.titleId}/scrub/${number}.jpg`);

  /** The address of the one that shows a place best, of those that are there; null where none is near. */
  near(place: number): string | null {
    const far = (0.75 * this.count) / this.strip;
    const wanted = place * this.count - 0.5;
    let best: number | null = null;
    for (const number of this.there) {
      const away = Math.abs(number - wanted);
      if (away <= far && (best === null || away < Math.abs(best - wanted))) best = number;
    }
    return best === null ? null : this.address(best);
  }

  private next(): boolean {
    const number = this.wanted ? this.nextNumber() : null;
    if (number === null) return false;
    this.asked.add(number);
    this.running += 1;
    const image = new Image();
    const done = (there: boolean) => {
      this.running -= 1;
      if (there) this.there.add(number);
      for (const tell of this.told) tell();
      this.next();
    };
    image.onload = () => done(true);
    image.onerror = () => done(false);
    image.src = this.address(number);
    return true;
  }

  private nextNumber(): number | null {
    const each = this.count / this.strip;
    const first = Array.from({ length: this.strip }, (_, index) => index * each + (each - 1) / 2);
    const open = first.filter((number) => !this.asked.has(number));
    const all = open.length ? open : Array.from({ length: this.count }, (_, number) => number);
    const wanted = this.place * this.count - 0.5;
    return all
      .filter((number) => !this.asked.has(number))
      .reduce<number | null>(
        (best, number) =>
          best === null || Math.abs(number - wanted) < Math.abs(best - wanted) ? number : best,
        null,
      );
  }
}

/** Which frames there are of a title: `strip` on its strip, `scrub` for scrubbing over it. */
interface Frames {
  title_id: number;
  strip: number;
  scrub: number;
}

/**
 * What can be shown at once of a place (0 to 1) in a title: the address of a small frame near it, or null. They are
 * fetched while somebody is `scrubbing`, or about to.
 */
export function useScrubFrame(
  { title_id, strip, scrub }: Frames,
  place: number,
  scrubbing: boolean,
): string | null {
  const [frames] = useState(() => new ScrubFrames(title_id, scrub, strip));
  useSyncExternalStore(frames.subscribe, frames.loaded);
  useEffect(() => {
    if (!scrub) return;
    if (scrubbing) frames.begin(place);
    else frames.end();
  }, [frames, scrub, place, scrubbing]);
  useEffect(() => () => frames.end(), [frames]);
  return scrub ? frames.near(place) : null;
}
