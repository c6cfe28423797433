/** Whether the server and its database answer; every screen says so, and comes back by itself. */
import { useSyncExternalStore } from "react";

const LOOK_EVERY_MS = 1500;

let away: string | null = null;
let looking = 0;
const listeners = new Set<() => void>();
const backAgain = new Set<() => void>();

function tell() {
  for (const listener of listeners) listener();
}

/** The line is down, for this reason. From now on it is looked at until it is back. */
export function lineDown(why: string) {
  if (away === null) looking = window.setInterval(() => void look(), LOOK_EVERY_MS);
  if (away === why) return;
  away = why;
  tell();
}

/** An answer came: the line is up. */
export function lineUp() {
  if (away === null) return;
  away = null;
  window.clearInterval(looking);
  tell();
  for (const act of backAgain) act();
}

async function look() {
  try {
    const answer = await fetch("/api/me", { cache: "no-store" });
    if (answer.status < 500) lineUp();
  } catch {
    // still away
  }
}

/** Do this each time the line is back. Returns how to stop. */
export function onBack(act: () => void): () => void {
  backAgain.add(act);
  return () => backAgain.delete(act);
}

export const useLine = () =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => away,
  );
