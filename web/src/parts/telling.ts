import { useEffect, useRef, useSyncExternalStore } from "react";

import { useLive } from "../api/live";
import { under } from "../api/base";
import { followed, type Night, toldText } from "../domain/told";

export type Way = "sound" | "notice";

const stored = (way: Way) => `rheon-told-${way}`;
const CHANGED = "rheon:telling";
const TONES_HZ = [523.25, 783.99];
const TONE_S = 0.35;
const ALONE_MS = 3000;

/** Whether this browser lets a page of this address show notifications at all. */
export const mayShow = () => isSecureContext && "Notification" in window;

/** Whether this browser is to tell in some way when all is made; kept in the browser. */
export function useTelling(way: Way) {
  const on = useSyncExternalStore(
    (changed) => {
      addEventListener(CHANGED, changed);
      return () => removeEventListener(CHANGED, changed);
    },
    () => isOn(way),
  );
  const set = async (wanted: boolean) => {
    const allowed = way === "sound" || !wanted || (await Notification.requestPermission()) === "granted";
    if (wanted && allowed) localStorage.setItem(stored(way), "on");
    else localStorage.removeItem(stored(way));
    dispatchEvent(new Event(CHANGED));
    if (wanted && way === "sound") play();
    return allowed;
  };
  return { on, set };
}

const isOn = (way: Way) =>
  localStorage.getItem(stored(way)) === "on" &&
  (way === "sound" || (mayShow() && Notification.permission === "granted"));

/** Tells, in the ways that this browser was asked for, when nothing is left to make. */
export function useToldWhenDone() {
  const { counts } = useLive();
  const night = useRef<Night>(null);
  useEffect(() => {
    if (!counts) return;
    const next = followed(night.current, counts);
    night.current = next.night;
    if (next.made !== null) void inOnePage(() => tell(toldText(next.made ?? 0)));
  }, [counts]);
}

function tell(text: string) {
  if (isOn("sound")) play();
  if (isOn("notice")) new Notification("Rheon", { body: text, tag: "rheon", icon: under("/mark.svg") });
}

/** Of several pages that are open, one tells. */
async function inOnePage(act: () => void) {
  if (!("locks" in navigator)) return act();
  await navigator.locks.request("rheon-told", { ifAvailable: true }, async (lock) => {
    if (!lock) return;
    act();
    await new Promise((rest) => setTimeout(rest, ALONE_MS));
  });
}

/** Two tones, one after the other; a browser that has not been touched yet stays silent. */
function play() {
  const sound = new AudioContext();
  TONES_HZ.forEach((tone, index) => {
    const voice = sound.createOscillator();
    const loudness = sound.createGain();
    const start = sound.currentTime + index * TONE_S;
    voice.frequency.value = tone;
    loudness.gain.setValueAtTime(0.2, start);
    loudness.gain.exponentialRampToValueAtTime(0.001, start + TONE_S * 2);
    voice.connect(loudness).connect(sound.destination);
    voice.start(start);
    voice.stop(start + TONE_S * 2);
    voice.onended = () => index === TONES_HZ.length - 1 && void sound.close();
  });
}
