import { useEffect, useState, useSyncExternalStore } from "react";

import { under } from "../api/base";

const AT_ONCE = 3;
const STRIP = 24;

/** The small frames of a title, fetched one after the other from where somebody looks; told when another one is there. */
class Smalls {
  private readonly asked = new Set<number>();
  private readonly there = new Set<number>();
  private readonly told = new Set<() => void>();
  private running = 0;
  private place = 0;
  private wanted = false;

  constructor(
    private readonly titleId: number,
    private readonly count: number,
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

  address = (number: number) => under(`/api/shelf/titles/${this.titleId}/smalls/${number}.jpg`);

  /** The address of the one that shows a place best, of those that are there; null where none is near. */
  near(place: number): string | null {
    const far = (0.75 * this.count) / STRIP;
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
    const each = this.count / STRIP;
    const first = Array.from({ length: STRIP }, (_, index) => index * each + (each - 1) / 2);
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

/**
 * What can be shown at once of a place (0 to 1) in a title: the address of a small frame near it, or null. They are
 * fetched while somebody is `scrubbing`, or about to.
 */
export function useSmalls(titleId: number, count: number, place: number, scrubbing: boolean): string | null {
  const [smalls] = useState(() => new Smalls(titleId, count));
  useSyncExternalStore(smalls.subscribe, smalls.loaded);
  useEffect(() => {
    if (!count) return;
    if (scrubbing) smalls.begin(place);
    else smalls.end();
  }, [smalls, count, place, scrubbing]);
  useEffect(() => () => smalls.end(), [smalls]);
  return count ? smalls.near(place) : null;
}
