/** `1 h 32 min` from an hour on, `4:07` below. */
export function durationText(seconds: number): string {
  const whole = Math.round(seconds);
  if (whole >= 3600) return `${Math.floor(whole / 3600)} h ${Math.floor((whole % 3600) / 60)} min`;
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
}

/** How long something takes, said roughly: `8 s`, `14 min`, `1 h 12 min`. */
export function spanText(seconds: number): string {
  if (seconds < 90) return `${Math.max(1, Math.round(seconds))} s`;
  const minutes = Math.round(seconds / 60);
  if (minutes < 60) return `${minutes} min`;
  return `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
}

/** A moment in a title: `0:41`, `1:27:02`. */
export function momentText(seconds: number): string {
  const whole = Math.floor(seconds);
  const tail = String(whole % 60).padStart(2, "0");
  const minutes = Math.floor(whole / 60);
  if (minutes < 60) return `${minutes}:${tail}`;
  return `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, "0")}:${tail}`;
}

/** A moment to the thousandth: `0:09.96`, `1:02:03.5`. */
export function exactText(seconds: number): string {
  const thousandths = Math.round(seconds * 1000);
  const whole = Math.floor(thousandths / 1000);
  const rest = thousandths % 1000;
  const tail = rest ? `.${String(rest).padStart(3, "0").replace(/0+$/, "")}` : "";
  const pair = (value: number) => String(value).padStart(2, "0");
  const minutes = Math.floor(whole / 60);
  if (minutes < 60) return `${minutes}:${pair(whole % 60)}${tail}`;
  return `${Math.floor(minutes / 60)}:${pair(minutes % 60)}:${pair(whole % 60)}${tail}`;
}

/** A time of day in the reader's own habit. */
export function clockText(at: Date): string {
  return at.toLocaleTimeString(undefined, { hour: "numeric", minute: "2-digit" });
}

/** `10:00 PM`, of a time of day as it is stored (`22:00:00`). */
export function timeText(stored: string): string {
  const [hour, minute] = stored.split(":").map(Number);
  return clockText(new Date(2000, 0, 1, hour, minute));
}
