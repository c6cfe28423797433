/** Whether this browser is locked: it holds whatever the line does, in every tab, until somebody signs in. */
import { api } from "../api/client";
import { onBack } from "./line";

export const PLACE = "vane-check-locked";

export const isLocked = () => localStorage.getItem(PLACE) !== null;

/** A session that was to end and could not be told so; in the cache too, where the service worker sees it, page or no page. */
const OWED = "vane-check-owed";
const OWED_AT = "/owed";
const hasCache = "caches" in window;

async function keepOwed() {
  localStorage.setItem(OWED, "sign-out");
  if (hasCache) await (await caches.open(OWED)).put(OWED_AT, new Response("sign-out"));
}

async function forgetOwed() {
  localStorage.removeItem(OWED);
  if (hasCache) await caches.delete(OWED);
}

/** At the door one thing is done at a time, in all tabs: nobody who just signed in is signed out for the one before. */
const DOOR = "vane-check-door";
async function atTheDoor<Done>(act: () => Promise<Done>): Promise<Done> {
  return "locks" in navigator ? await navigator.locks.request(DOOR, act) : await act();
}

async function leave() {
  await keepOwed();
  const { response } = await api.POST("/api/sign-out");
  if (response.ok) await forgetOwed();
}

/** End the session at the server, now or when it answers again. */
export const signOut = () => atTheDoor(leave).catch(() => undefined);

/** What could not be told is told when the line is back, and by a page that is opened later. */
export function settleOwed() {
  const settle = () =>
    void atTheDoor(async () => (localStorage.getItem(OWED) === null ? undefined : leave())).catch(() => undefined);
  onBack(settle);
  settle();
}

/** Somebody signs in: after whoever leaves, and the session before ends by it. */
export async function enter<Found>(signIn: () => Promise<Found>): Promise<Found> {
  return atTheDoor(async () => {
    const answer = await signIn();
    await forgetOwed().catch(() => undefined);
    localStorage.removeItem(PLACE);
    return answer;
  });
}

const locking = new Set<() => void>();

/** Do this whenever the browser is locked here. */
export const onLock = (act: () => void) => void locking.add(act);

/** Nobody is to see anything from here on. */
export function lock() {
  localStorage.setItem(PLACE, "locked");
  for (const act of locking) act();
}
