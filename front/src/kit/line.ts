/** Whether the server and its database answer; every screen says so, and comes back by itself. */
import { useSyncExternalStore } from "react";
import { nowMs } from "./clock";
import { t } from "../language/t";

const LOOK_EVERY_MS = 1500;
const PROBE_MS = 4000;
/** What is said where nothing more is known. */
export const AWAY = t("line.the_server_does_not_answer_what_you_type");

const HEARD = "vane-check-heard";
const HEARD_EVERY_MS = 3000;

let away: string | null = null;
let heardAt = Number(localStorage.getItem(HEARD));
let looking = 0;
const listeners = new Set<() => void>();
const backAgain = new Set<() => void>();
const cut = new Set<() => void>();

function tell() {
  for (const listener of listeners) listener();
}

/** The line is down, for this reason. From now on it is looked at until it is back. */
export function lineDown(why: string) {
  const isNew = away === null;
  if (isNew) looking = window.setInterval(() => void look(), LOOK_EVERY_MS);
  if (away === why) return;
  away = why;
  tell();
  if (isNew) for (const act of cut) act();
}

/** The server was heard just now. */
export function heard() {
  const now = nowMs();
  if (now - heardAt > HEARD_EVERY_MS) localStorage.setItem(HEARD, String(now));
  heardAt = now;
}

/** When the server was last heard; null where it never was. */
export const lastHeard = () => (heardAt ? new Date(heardAt).toISOString() : null);

/** The server answers, and keeps nothing more: its disk is full. Looked at until there is room. */
let full: string | null = null;
const ROOM_EVERY_MS = 4000;

export function noRoom(why: string) {
  if (full !== null) return;
  full = why;
  tell();
  const looking = window.setInterval(() => {
    void fetch("/api/ready", { cache: "no-store" })
      .then((answer) => {
        if (!answer.ok) return;
        window.clearInterval(looking);
        full = null;
        tell();
      })
      .catch(() => undefined);
  }, ROOM_EVERY_MS);
}

export const isAway = () => away !== null;

/** Something speaks for the line being cut: ask the server once. */
export async function listenForLine() {
  if (away !== null) return;
  try {
    const answer = await fetch("/api/me", { cache: "no-store", signal: AbortSignal.timeout(PROBE_MS) });
    if (answer.status < 500) return heard();
  } catch {
    // it does not answer
  }
  lineDown(AWAY);
}

/** An answer came: the line is up. */
export function lineUp() {
  heard();
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

/** Do this each time the line is cut. */
export const onCut = (act: () => void) => void cut.add(act);

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
    () => away ?? full,
  );
