/** Readings on their way to the records. Each lies in the browser's own store until the server says it is kept. */
import { useSyncExternalStore } from "react";
import { ApiProblem, api, asked, type Reading } from "../api/client";
import { learned } from "../api/queries";

export interface Waiting {
  tag: number;
  reading: Reading;
  problem?: { message: string; errors: { path: string; message: string }[] };
}

const PLACE = "vane-check-outbox";
const RETRY_MS = 2500;

let waiting: Waiting[] = load();
let sending = false;
const listeners = new Set<() => void>();

function load(): Waiting[] {
  try {
    return JSON.parse(localStorage.getItem(PLACE) ?? "[]") as Waiting[];
  } catch {
    return [];
  }
}

function set(next: Waiting[]) {
  waiting = next;
  localStorage.setItem(PLACE, JSON.stringify(next));
  for (const tell of listeners) tell();
}

export const useWaiting = () =>
  useSyncExternalStore(
    (tell) => {
      listeners.add(tell);
      return () => listeners.delete(tell);
    },
    () => waiting,
  );

/** Hand over a reading; it is sent now, or as soon as the server answers again. */
export function keep(tag: number, reading: Reading) {
  set([...waiting.filter((entry) => entry.reading.id !== reading.id), { tag, reading }]);
  void send();
}

/** Take a refused reading back, to be typed anew. */
export const takeBack = (id: string) => set(waiting.filter((entry) => entry.reading.id !== id));

/** Send what waits, oldest first. */
export async function send() {
  if (sending) return;
  sending = true;
  try {
    for (;;) {
      const entry = waiting.find((candidate) => !candidate.problem);
      if (!entry) return;
      if (!(await sendOne(entry))) return;
    }
  } finally {
    sending = false;
  }
}

async function sendOne(entry: Waiting): Promise<boolean> {
  try {
    const view = await asked(
      api.POST("/api/batteries/{tag}/readings", { params: { path: { tag: entry.tag } }, body: entry.reading }),
    );
    await learned(view);
    takeBack(entry.reading.id ?? "");
    return true;
  } catch (error) {
    if (!(error instanceof ApiProblem) || error.status === 401 || error.status >= 500) return false;
    const problem = { message: error.message, errors: error.errors };
    set(waiting.map((other) => (other.reading.id === entry.reading.id ? { ...other, problem } : other)));
    return true;
  }
}

setInterval(() => void send(), RETRY_MS);
window.addEventListener("online", () => void send());
