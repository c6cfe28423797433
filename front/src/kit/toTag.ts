/** Batteries that were written in without the line and have their tag now: said until somebody hung it on. */
import { useSyncExternalStore } from "react";
import type { Schema } from "../api/client";

const PLACE = "vane-check-to-tag";

export interface ToTag {
  tag: number;
  /** By what the battery is told: whose it is, what its label says. */
  words: string;
}

const read = (): ToTag[] => JSON.parse(localStorage.getItem(PLACE) ?? "[]") as ToTag[];
let now = read();
const listeners = new Set<() => void>();

function write(next: ToTag[]) {
  now = next;
  localStorage.setItem(PLACE, JSON.stringify(next));
  for (const tell of listeners) tell();
}

export function toBeTagged(view: Schema["CheckView"]) {
  const rating = view.battery.rating;
  const words = [
    view.customer_name || view.customer_plate,
    view.battery.line,
    rating && `${rating.amps} ${rating.scale}`,
  ];
  write([...now.filter((one) => one.tag !== view.tag), { tag: view.tag, words: words.filter(Boolean).join(", ") }]);
}

/** Its tag hangs on it. */
export const forgetTag = (tag: number) => write(now.filter((one) => one.tag !== tag));

export const useToTag = () =>
  useSyncExternalStore(
    (tell) => {
      listeners.add(tell);
      return () => listeners.delete(tell);
    },
    () => now,
  );
