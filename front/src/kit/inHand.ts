/** The battery in hand: the one last stood before, until another is taken up. It outlives a visit to the house's own desks. */
import { useSyncExternalStore } from "react";

const PLACE = "vane-check-in-hand";
const listeners = new Set<() => void>();
let tag = Number(sessionStorage.getItem(PLACE)) || null;

export function takeInHand(next: number | null) {
  if (next === tag) return;
  tag = next;
  if (next === null) sessionStorage.removeItem(PLACE);
  else sessionStorage.setItem(PLACE, String(next));
  for (const tell of listeners) tell();
}

export const useInHand = () =>
  useSyncExternalStore(
    (tell) => {
      listeners.add(tell);
      return () => listeners.delete(tell);
    },
    () => tag,
  );
