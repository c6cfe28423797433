/** Whether this browser is locked: it holds whatever the line does, in every tab, until somebody signs in. */
import { api } from "../api/client";

export const PLACE = "vane-check-locked";

export const isLocked = () => localStorage.getItem(PLACE) !== null;

let leaving: Promise<unknown> = Promise.resolve();

/** End the session at the server, now or when it answers again; the next sign-in waits for this try. */
export function signOut(): Promise<unknown> {
  leaving = api.POST("/api/sign-out").catch(() => undefined);
  return leaving;
}

/** The last try to sign out is over. */
export const signedOut = () => leaving;

/** Somebody signed in. */
export const unlock = () => localStorage.removeItem(PLACE);

const locking = new Set<() => void>();

/** Do this whenever the browser is locked here. */
export const onLock = (act: () => void) => void locking.add(act);

/** Nobody is to see anything from here on. */
export function lock() {
  localStorage.setItem(PLACE, "locked");
  for (const act of locking) act();
}
