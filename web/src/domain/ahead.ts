interface Job {
  left_s: number | null;
}

export interface Laid<J> {
  job: J;
  /** Which of those that are made beside each other it is among. */
  lane: number;
  start_s: number;
}

/** Jobs on the time ahead: each is taken up in its order, by whoever is free first. `ends_s`: when each lane is done. */
export function laidAhead<J extends Job>(jobs: readonly J[], lanes: number) {
  const ends_s = new Array<number>(Math.max(1, lanes)).fill(0);
  const laid = jobs.map((job): Laid<J> => {
    const start_s = Math.min(...ends_s);
    const lane = ends_s.indexOf(start_s);
    ends_s[lane] = start_s + (job.left_s ?? 0);
    return { job, lane, start_s };
  });
  return { laid, ends_s };
}
